import { type ItemInput, moneyFromScaled, quantityFromScaled, type SupplierRow } from "@yosegi/core";
import { groupBy, type Reading } from "../db/index.ts";
import type { ItemTableRow } from "./tables.ts";

const quantityOrNull = (whole: number | null) => (whole === null ? null : quantityFromScaled(whole));

const moneyOrNull = (whole: number | null) => (whole === null ? null : moneyFromScaled(whole));

/** Every item as a file has it, by code. */
export async function itemRecords(ctx: Reading): Promise<Omit<ItemInput, "row">[]> {
  const rows = await ctx.sql.all<ItemTableRow & { store: string | null; group_name: string | null }>(
    `SELECT i.*, p.name AS store, g.name AS group_name FROM item i LEFT JOIN location_head p ON p.id = i.home_location_id
       LEFT JOIN item_group g ON g.id = i.group_id ORDER BY i.code_key`,
  );
  const packs = await ctx.sql.all<{ item: number; name: string; quantity: number }>(
    "SELECT item_id AS item, name, quantity FROM pack ORDER BY item_id, position",
  );
  const packsOf = groupBy(packs, (pack) => pack.item);
  return rows.map((row) => ({
    code: row.code,
    name: row.name,
    kind: row.kind,
    unit: row.unit,
    tracking: row.tracking,
    group: row.group_name ?? "",
    barcode: row.barcode,
    store: row.store ?? "",
    bin: row.home_bin,
    cost: moneyOrNull(row.standard_cost),
    costPer: row.cost_unit,
    price: moneyOrNull(row.price),
    pricePer: row.price_unit,
    reorderLevel: quantityOrNull(row.reorder_level),
    buildDays: row.build_days,
    shelfLife: row.shelf_life,
    warrantyMonths: row.warranty_months,
    maker: row.maker,
    makerNumber: row.maker_number,
    lotPattern: row.lot_pattern,
    state: row.state,
    notes: row.notes,
    notStockTracked: row.not_stock_tracked === 1,
    notForSale: row.not_for_sale === 1,
    alwaysBuild: row.always_build === 1,
    finishWhenShipped: row.finish_when_shipped === 1,
    lotFixed: row.lot_fixed === 1,
    taxRate: quantityOrNull(row.tax_rate),
    packs: (packsOf.get(row.id) ?? []).map((p) => ({
      name: p.name,
      quantity: quantityFromScaled(p.quantity),
    })),
  }));
}

/** What every supplier asks for every item, as a file has it. */
export async function supplierRecords(ctx: Reading): Promise<Omit<SupplierRow, "row">[]> {
  const rows = await ctx.sql.all<{
    item: string;
    supplier: string;
    their_code: string;
    price: number | null;
    price_unit: string;
    lead_days: number | null;
    minimum: number | null;
    multiple: number | null;
    web: string;
    preferred: number;
  }>(
    `SELECT i.code AS item, f.code AS supplier, s.their_code, s.price, s.price_unit, s.lead_days, s.minimum, s.multiple, s.web, s.preferred
       FROM item_supplier s JOIN item i ON i.id = s.item_id JOIN firm_head f ON f.id = s.supplier_id
      ORDER BY i.code_key, s.preferred DESC, f.code_key`,
  );
  return rows.map((row) => ({
    item: row.item,
    supplier: row.supplier,
    theirCode: row.their_code,
    web: row.web,
    leadDays: row.lead_days,
    preferred: row.preferred === 1,
    price: moneyOrNull(row.price),
    pricePer: row.price_unit,
    minimum: quantityOrNull(row.minimum),
    multiple: quantityOrNull(row.multiple),
  }));
}
