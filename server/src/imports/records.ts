import type { ImportKind } from "@yosegi/contract";
import {
  type Cells,
  codeKey,
  firmCells,
  itemCells,
  kitCells,
  listCells,
  listKey,
  moneyFromWhole,
  quantityFromWhole,
  roundMoney,
  supplierCells,
} from "@yosegi/core";
import { groupBy, type ItemTableRow, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { loadKits } from "../kits/index.ts";
import { locationNames } from "../ledger/index.ts";
import { inForce, loadRevisions } from "../lists/index.ts";
import { personNames } from "../people/index.ts";

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
  switch (kind) {
    case "prices":
      return listKey(item, supplier);
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

const quantityOrNull = (whole: number | null) => (whole === null ? null : quantityFromWhole(whole));

const moneyOrNull = (whole: number | null) => (whole === null ? null : moneyFromWhole(whole));

async function items(ctx: Reading): Promise<Records> {
  const rows = await ctx.sql.all<ItemTableRow & { store: string | null; group_name: string | null }>(
    `SELECT i.*, p.name AS store, g.name AS group_name FROM item i LEFT JOIN location p ON p.id = i.home_location_id
       LEFT JOIN item_group g ON g.id = i.group_id ORDER BY i.code_key`,
  );
  const packs = await ctx.sql.all<{ item: number; name: string; quantity: number }>(
    "SELECT item_id AS item, name, quantity FROM pack ORDER BY item_id, position",
  );
  const packsOf = groupBy(packs, (pack) => pack.item);
  return records(
    "items",
    rows.map((row) =>
      itemCells({
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
        notCounted: row.not_stock_tracked === 1,
        packs: (packsOf.get(row.id) ?? []).map((p) => ({
          name: p.name,
          quantity: quantityFromWhole(p.quantity),
        })),
      }),
    ),
  );
}

async function firms(ctx: Reading, kind: "supplier" | "customer"): Promise<Records> {
  const rows = await ctx.sql.all<Parameters<typeof firmCells>[0]>(
    "SELECT code, name, address, contact, email, phone, terms FROM firm WHERE kind = $kind ORDER BY code_key",
    { kind },
  );
  return records(kind === "supplier" ? "suppliers" : "customers", rows.map(firmCells));
}

async function supplierPrices(ctx: Reading): Promise<Records> {
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
       FROM item_supplier s JOIN item i ON i.id = s.item_id JOIN firm f ON f.id = s.supplier_id
      ORDER BY i.code_key, s.preferred DESC, f.code_key`,
  );
  return records(
    "prices",
    rows.map((row) =>
      supplierCells({
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
      }),
    ),
  );
}

/** Each list as it is in force, and where none is locked yet as its draft is. */
async function lists(ctx: Reading): Promise<Records> {
  const heads = await ctx.sql.all<{ revision: number | null; product: string; name: string; main: number }>(
    `SELECT ${inForce("p.id")} AS revision, i.code AS product, p.name, p.main
       FROM parts_list p JOIN item i ON i.id = p.product_id ORDER BY i.code_key, p.main DESC, p.name_key`,
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
  const [places, people] = [await locationNames(ctx), await personNames(ctx)];
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
        store: line.store === null ? "" : (places.get(line.store) ?? ""),
        person: line.person === null ? "" : (people.get(line.person) ?? ""),
        substitutes: line.substitutes.map((s) => ({ item: brief(s.item).code, quantity: s.quantity })),
      })),
    });
  });
  return records("partsLists", rows);
}

async function kits(ctx: Reading): Promise<Records> {
  const heads = await ctx.sql.all<{ id: number; code: string }>(
    "SELECT i.id, i.code FROM kit k JOIN item i ON i.id = k.item_id ORDER BY i.code_key",
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
    `SELECT i.code AS item, p.name AS store, b.bin, b.quantity, b.lot, b.serial, l.expiry, o.quantity AS pool, o.value
       FROM balance b JOIN item i ON i.id = b.item_id JOIN location p ON p.id = b.location_id
       JOIN pool o ON o.item_id = b.item_id AND o.lot = b.lot AND o.serial = b.serial AND o.owner = b.owner AND o.owner_id = b.owner_id
       LEFT JOIN lot l ON l.item_id = b.item_id AND l.code = b.lot
      WHERE b.quantity > 0 AND p.kind = 'store' ORDER BY i.code_key, p.id, b.bin, b.lot, b.serial`,
  );
  return records(
    "stock",
    rows.map((row) => ({
      item: row.item,
      store: row.store,
      bin: row.bin,
      quantity: quantityFromWhole(row.quantity).toFixed(),
      unit_cost: roundMoney(moneyFromWhole(row.value).div(quantityFromWhole(row.pool)), 4).toFixed(4),
      lot: row.lot,
      expiry: row.expiry ?? "",
      serial: row.serial,
    })),
  );
}
