import { type ItemSheet, Refusal, type SupplierInput } from "@yosegi/contract";
import {
  checkSuppliers,
  codeKey,
  moneyFromScaled,
  moneyToScaled,
  pricedQuantity,
  quantityFromScaled,
  quantityToScaled,
  type Rate,
  type SupplierRow,
  type Units,
} from "@yosegi/core";
import { countChange, type Reading, type Writing } from "../db/index.ts";
import { refuseProblems } from "../problems.ts";
import { itemById } from "./items.ts";
import { type Known, knownItems } from "./known.ts";
import { ITEM, ITEM_SUPPLIER } from "./tables.ts";
import { loadUnits } from "./units.ts";

/** Who supplies an item, the preferred one first. */
export async function suppliersOf(ctx: Reading, item: number): Promise<ItemSheet["suppliers"]> {
  const rows = await ctx.sql.all<{
    firm: number;
    code: string;
    name: string;
    their_code: string;
    price: number | null;
    price_unit: string;
    lead_days: number | null;
    minimum: number | null;
    multiple: number | null;
    web: string;
    preferred: number;
  }>(
    `SELECT f.id AS firm, f.code, f.name, s.their_code, s.price, s.price_unit, s.lead_days, s.minimum, s.multiple, s.web, s.preferred
       FROM item_supplier s JOIN firm_head f ON f.id = s.supplier_id WHERE s.item_id = $item ORDER BY s.preferred DESC, f.code_key`,
    { item },
  );
  const quantity = (whole: number | null) => (whole === null ? null : quantityFromScaled(whole).toFixed());
  return rows.map((row) => ({
    firm: row.firm,
    supplier: row.code,
    name: row.name,
    theirCode: row.their_code,
    price: row.price === null ? null : moneyFromScaled(row.price).toFixed(),
    pricePer: row.price_unit,
    leadDays: row.lead_days,
    minimum: quantity(row.minimum),
    multiple: quantity(row.multiple),
    web: row.web,
    preferred: row.preferred === 1,
  }));
}

/** Codes of suppliers that may be named, by their key. */
export async function supplierIds(ctx: Reading): Promise<Map<string, number>> {
  const rows = await ctx.sql.all<{ id: number; key: string }>(
    "SELECT id, code_key AS key FROM firm_head WHERE kind = 'supplier'",
  );
  return new Map(rows.map((row) => [row.key, row.id]));
}

/** Says anew who supplies an item. Where one supplies it and none is preferred, that one is. */
export async function changeSuppliers(
  ctx: Writing,
  id: number,
  suppliers: readonly SupplierInput[],
): Promise<void> {
  const item = await itemById(ctx, id);
  const rows = suppliers.map((s, row): SupplierRow => {
    const only = suppliers.length === 1;
    return {
      ...s,
      row,
      item: item.code,
      preferred: s.preferred || only,
    };
  });
  const facts = {
    items: await knownItems(ctx, [item.code]),
    units: await loadUnits(ctx),
    stores: new Set<string>(),
    people: new Set<string>(),
  };
  const firms = await supplierIds(ctx);
  const repeated = rows.find((row, i) =>
    rows.some((other, j) => j < i && codeKey(other.supplier) === codeKey(row.supplier)),
  );
  if (repeated)
    throw Refusal.at(`suppliers.${repeated.row}.supplier`, "supplier-repeated", { code: repeated.supplier });
  const { problems } = checkSuppliers(rows, facts, new Set(firms.keys()));
  refuseProblems(problems, (p) => `suppliers.${p.row}.${p.field}`);
  await countChange(ctx, ITEM, id);
  await ctx.model(ITEM_SUPPLIER).destroy({ where: { item_id: id } });
  await writeSuppliers(ctx, rows, facts, firms);
}

/** Writes what suppliers ask for items; another supplier of the same item stays, but no longer as the preferred one. */
export async function writeSuppliers(
  ctx: Writing,
  rows: readonly SupplierRow[],
  { items, units }: { items: Known; units: Units },
  firms: ReadonlyMap<string, number>,
): Promise<void> {
  const quantity = (value: SupplierRow["minimum"]) => (value === null ? null : quantityToScaled(value));
  const values = rows.map((row) => {
    const item = items.get(codeKey(row.item));
    const per = item && pricedQuantity(row.pricePer, units.get(item.unit), units.values(), item.packs);
    if (!item || !per) throw new Error(`${row.item} was checked and is not there`);
    return {
      item_id: item.id,
      supplier_id: firms.get(codeKey(row.supplier)) ?? 0,
      their_code: row.theirCode,
      price: row.price === null ? null : moneyToScaled(row.price),
      price_per: quantityToScaled(per),
      price_unit: row.pricePer,
      lead_days: row.leadDays,
      minimum: quantity(row.minimum),
      multiple: quantity(row.multiple),
      web: row.web,
      preferred: row.preferred ? 1 : 0,
    };
  });
  await ctx
    .model(ITEM_SUPPLIER)
    .update(
      { preferred: 0 },
      { where: { item_id: values.filter((row) => row.preferred === 1).map((row) => row.item_id) } },
    );
  await ctx.sql.upsert(ITEM_SUPPLIER, ["item_id", "supplier_id"], values);
}

/** Sets what a supplier asks for an item; where it had no terms for it yet, it has this one, and is the preferred one if the only one. */
export async function setAgreedPrice(
  ctx: Writing,
  { item, supplier, rate, unit }: { item: number; supplier: number; rate: Rate; unit: string },
): Promise<void> {
  const price = {
    price: moneyToScaled(rate.amount),
    price_per: quantityToScaled(rate.per),
    price_unit: unit,
  };
  await countChange(ctx, ITEM, item);
  const terms = ctx.model(ITEM_SUPPLIER);
  const [changed] = await terms.update(price, { where: { item_id: item, supplier_id: supplier } });
  if (changed > 0) return;
  const others = await terms.count({ where: { item_id: item } });
  await terms.create({
    item_id: item,
    supplier_id: supplier,
    their_code: "",
    lead_days: null,
    minimum: null,
    multiple: null,
    web: "",
    preferred: others === 0 ? 1 : 0,
    ...price,
  });
}

/** Removes what a supplier asks for an item. */
export async function removeSupplier(ctx: Writing, item: number, supplier: number): Promise<void> {
  await ctx.model(ITEM_SUPPLIER).destroy({ where: { item_id: item, supplier_id: supplier } });
}
