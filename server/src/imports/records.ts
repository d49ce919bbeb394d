import type { ImportKind } from "@yosegi/contract";
import {
  type Cells,
  codeKey,
  divideRounded,
  firmCells,
  itemCells,
  kitCells,
  listCells,
  listKey,
  moneyFromScaled,
  priceListCells,
  quantityFromScaled,
  supplierCells,
} from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { briefs, itemRecords, supplierRecords } from "../items/index.ts";
import { loadKits } from "../kits/index.ts";
import { locationNames } from "../ledger/index.ts";
import { inForce, loadRevisions } from "../lists/index.ts";
import { personNames } from "../people/index.ts";
import { priceListRecords } from "../prices/index.ts";

/** What is there of a kind, as rows of its file, by what makes it one record. */
export type Records = Map<string, Cells[]>;

/** Everything of a kind as it would be taken out, in the order of codes. */
export async function recordsOf(ctx: Reading, kind: ImportKind): Promise<Records> {
  switch (kind) {
    case "items":
      return items(ctx);
    case "suppliers":
      return firms(ctx, "supplier");
    case "customers":
      return firms(ctx, "customer");
    case "prices":
      return supplierPrices(ctx);
    case "priceLists":
      return records("priceLists", (await priceListRecords(ctx)).map(priceListCells));
    case "partsLists":
      return lists(ctx);
    case "kits":
      return kits(ctx);
    case "stock":
      return stock(ctx);
  }
}

/** What makes rows of a file one record. */
export function recordKey(kind: ImportKind, cells: Cells): string {
  const { code = "", item = "", supplier = "", product = "", list = "", kit = "" } = cells;
  const { customer = "", group = "", from = "" } = cells;
  switch (kind) {
    case "prices":
      return listKey(item, supplier);
    case "priceLists":
      return [customer, group, item, from === "" ? "0" : from].map(codeKey).join("\n");
    case "partsLists":
      return listKey(product, list);
    case "kits":
      return codeKey(kit);
    case "stock":
      return codeKey(item);
    default:
      return codeKey(code);
  }
}

const records = (kind: ImportKind, rows: readonly Cells[]): Records => {
  const found: Records = new Map();
  for (const row of rows) {
    const key = recordKey(kind, row);
    const record = found.get(key);
    if (record) record.push(row);
    else found.set(key, [row]);
  }
  return found;
};

async function items(ctx: Reading): Promise<Records> {
  return records("items", (await itemRecords(ctx)).map(itemCells));
}

async function firms(ctx: Reading, kind: "supplier" | "customer"): Promise<Records> {
  const rows = await ctx.sql.all<Parameters<typeof firmCells>[0]>(
    `SELECT code, name, address, contact, email, phone, terms, customer_group AS "group" FROM firm_head WHERE kind = $kind ORDER BY code_key`,
    { kind },
  );
  return records(kind === "supplier" ? "suppliers" : "customers", rows.map(firmCells));
}

async function supplierPrices(ctx: Reading): Promise<Records> {
  return records("prices", (await supplierRecords(ctx)).map(supplierCells));
}

/** Each list as it is in force, and where none is locked yet as its draft is. */
async function lists(ctx: Reading): Promise<Records> {
  const heads = await ctx.sql.all<{ revision: number | null; product: string; name: string; main: number }>(
    `SELECT ${inForce("p.id")} AS revision, i.code AS product, p.name, p.main
       FROM list_head p JOIN item_head i ON i.id = p.product_id ORDER BY i.code_key, p.main DESC, p.name_key`,
    { today: ctx.today },
  );
  const found = await loadRevisions(
    ctx,
    heads.flatMap((head) => head.revision ?? []),
  );
  const brief = await briefs(
    ctx,
    [...found.values()].flatMap((list) =>
      list.lines.flatMap((line) => [line.item, ...line.substitutes.map((s) => s.item)]),
    ),
  );
  const [locations, people] = [await locationNames(ctx), await personNames(ctx)];
  const rows = heads.flatMap(({ revision, product, name, main }) => {
    const list = revision === null ? undefined : found.get(revision);
    if (!list) return [];
    return listCells({
      ...list,
      product,
      list: main === 1 ? "" : name,
      lines: list.lines.map((line) => ({
        ...line,
        row: 0,
        part: brief(line.item).code,
        unit: line.unit.code,
        store: line.store === null ? "" : (locations.get(line.store) ?? ""),
        person: line.person === null ? "" : (people.get(line.person) ?? ""),
        substitutes: line.substitutes.map((s) => ({ item: brief(s.item).code, quantity: s.quantity })),
      })),
    });
  });
  return records("partsLists", rows);
}

async function kits(ctx: Reading): Promise<Records> {
  const heads = await ctx.sql.all<{ id: number; code: string }>(
    "SELECT i.id, i.code FROM kit_head k JOIN item_head i ON i.id = k.item_id ORDER BY i.code_key",
  );
  const found = await loadKits(
    ctx,
    heads.map((head) => head.id),
  );
  const brief = await briefs(
    ctx,
    [...found.values()].flatMap((kit) => kit.contents.flatMap((c) => [c.item, ...c.swaps])),
  );
  const rows = heads.flatMap(({ id, code }) => {
    const kit = found.get(id);
    if (!kit) return [];
    return kitCells({
      ...kit,
      kit: code,
      contents: kit.contents.map((content) => ({
        ...content,
        row: 0,
        item: brief(content.item).code,
        swaps: content.swaps.map((swap) => brief(swap).code),
      })),
    });
  });
  return records("kits", rows);
}

/** What lies where, each at the unit cost of its pool. */
async function stock(ctx: Reading): Promise<Records> {
  const rows = await ctx.sql.all<{
    item: string;
    store: string;
    bin: string;
    quantity: number;
    lot: string;
    serial: string;
    expiry: string | null;
    pool: number;
    value: number;
  }>(
    `SELECT i.code AS item, p.name AS store, b.bin, b.quantity, b.lot, b.serial, l.expiry, b.pool_quantity AS pool, b.pool_value AS value
       FROM stock_balance b JOIN item_head i ON i.id = b.item_id JOIN location_head p ON p.id = b.location_id
       LEFT JOIN lot_head l ON l.item_id = b.item_id AND l.code = b.lot
      WHERE b.quantity > 0 AND p.kind = 'store' ORDER BY i.code_key, p.id, b.bin, b.lot, b.serial`,
  );
  return records(
    "stock",
    rows.map((row) => ({
      item: row.item,
      store: row.store,
      bin: row.bin,
      quantity: quantityFromScaled(row.quantity).toFixed(),
      unit_cost: divideRounded(moneyFromScaled(row.value), quantityFromScaled(row.pool), 4).toFixed(4),
      lot: row.lot,
      expiry: row.expiry ?? "",
      serial: row.serial,
    })),
  );
}
