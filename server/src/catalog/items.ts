import { type ItemBrief, type ItemRow, type QueryOf, Refusal, type routes } from "@yosegi/contract";
import {
  codeKey,
  type Decimal,
  type DrawnAt,
  eachAt,
  free,
  type ItemRow as ItemInput,
  isStocked,
  lacks,
  moneyFromWhole,
  moneyToWhole,
  NO_STOCK,
  type Pack,
  pricedQuantity,
  priceOfContents,
  quantityFromWhole,
  quantityToWhole,
  type Rate,
  rateOf,
  type StockFigures,
  searchText,
  setsAvailable,
  type Units,
  ZERO,
} from "@yosegi/core";
import {
  asJson,
  type ItemTableRow,
  type Reading,
  rateFromWhole,
  rateOrNull,
  type Writing,
} from "../db/index.ts";
import {
  IDS,
  joinStock,
  RESERVED,
  STOCK_COLUMNS,
  type StockRow,
  stockFigures,
  stockOf,
} from "../ledger/index.ts";
import { COST_COLUMNS, type CostRow, costsFrom } from "./costs.ts";
import { type KeptKit, loadKits } from "./kits.ts";
import { mainInForce } from "./lists.ts";

/** The packs of an item `i`, as `packsFrom` reads them. */
export const PACKS =
  "(SELECT json_group_array(json_object('name', name, 'quantity', quantity) ORDER BY position) FROM pack WHERE item_id = i.id)";

export const packsFrom = (json: string): Pack[] =>
  (JSON.parse(json) as { name: string; quantity: number }[]).map(({ name, quantity }) => ({
    name,
    quantity: quantityFromWhole(quantity),
  }));

/** The same as answers tell them. */
export const packTexts = (json: string): ItemBrief["packs"] =>
  packsFrom(json).map(({ name, quantity }) => ({ name, quantity: quantity.toFixed() }));

/** Columns of what is told of an item `i` in unit `u`. */
export const BRIEF = `i.id, i.code, i.name, i.kind, i.tracking, i.unit, u.decimals, i.state, i.not_stock_tracked, i.picture_id AS thumbnail,
  ${PACKS} AS packs`;

/** What is told of an item wherever it is named, by id. */
export async function briefs(ctx: Reading, ids: Iterable<number>): Promise<(item: number) => ItemBrief> {
  const rows = await ctx.sql.all<BriefRow>(
    `SELECT ${BRIEF}
       FROM json_each($ids) ids JOIN item i ON i.id = ids.value JOIN unit u ON u.code = i.unit`,
    { ids: asJson(new Set(ids)) },
  );
  const byId = new Map(rows.map((row) => [row.id, briefFrom(row)]));
  return (item) => {
    const found = byId.get(item);
    if (!found) throw new Refusal("not-found", { what: "item", id: item });
    return found;
  };
}

export interface BriefRow extends Omit<ItemBrief, "notCounted" | "packs"> {
  not_stock_tracked: number;
  packs: string;
}

/** Named one by one: copying a row of the driver with a rest takes longer than reading it. */
export function briefFrom(row: BriefRow): ItemBrief {
  return {
    id: row.id,
    code: row.code,
    name: row.name,
    kind: row.kind,
    tracking: row.tracking,
    unit: row.unit,
    decimals: row.decimals,
    state: row.state,
    notCounted: row.not_stock_tracked === 1,
    packs: packTexts(row.packs),
    thumbnail: row.thumbnail,
  };
}

/** SQL by which each column sorts; kits, whose sets follow from their contents, sort as having none. */
const SORT_BY: Record<QueryOf<typeof routes.items>["sort"], string> = {
  // A code that begins with what is searched comes first.
  code: "instr(i.search, $first) <> 1",
  name: "i.name COLLATE NOCASE",
  kind: "i.kind",
  price: "COALESCE(CAST(i.price AS REAL) / i.price_per, -1)",
  onHand: "COALESCE(st.on_hand, 0)",
  free: `COALESCE(st.on_hand, 0) - COALESCE(st.expired, 0) - (${RESERVED})`,
};

/** Items that lack something of their own; what a product lacks through a part stands at the part. */
const LACKING = `CASE i.kind
  WHEN 'service' THEN i.standard_cost IS NULL
  WHEN 'kit' THEN NOT EXISTS (SELECT 1 FROM kit_content WHERE kit_id = i.id)
    OR COALESCE((SELECT price_rule FROM kit WHERE item_id = i.id), 'own') = 'own' AND i.price IS NULL
  WHEN 'built' THEN ${mainInForce("i.id")} IS NULL
  ELSE i.state = 'active' AND NOT EXISTS (SELECT 1 FROM item_supplier WHERE item_id = i.id)
    OR i.standard_cost IS NULL AND NOT EXISTS (SELECT 1 FROM movement WHERE item_id = i.id)
  END`;

export type ItemQuery = QueryOf<typeof routes.items>;

/** One page of the items asked for, in the order asked for, and where the next begins. */
export async function findItems(
  ctx: Reading,
  query: ItemQuery,
): Promise<{ items: ItemRow[]; total: number; next: string | null }> {
  const words = searchText(query.search).split(/\s+/).filter(Boolean);
  const state = query.state ?? "";
  const where = [
    ...words.map((_, i) => `instr(i.search, $word${i}) > 0`),
    ...(query.kind ? ["i.kind = $kind"] : []),
    ...(query.group ? ["i.group_id = (SELECT id FROM item_group WHERE name_key = $group)"] : []),
    ...(state === "" ? ["i.state <> 'archived'"] : state === "all" ? [] : ["i.state = $state"]),
    ...(query.lacking ? [LACKING] : []),
  ];
  const bind = {
    ...Object.fromEntries(words.map((word, i) => [`word${i}`, word])),
    ...(query.kind && { kind: query.kind }),
    ...(query.group && { group: codeKey(query.group) }),
    ...(state !== "" && state !== "all" && { state }),
    ...(query.lacking && { today: ctx.today }),
  };
  const all = where.length === 0 ? "1" : where.join(" AND ");
  const { ids, next } = await pageOf(ctx, query, all, bind, words[0] ?? "");
  const count =
    query.after === undefined
      ? await ctx.sql.one<{ total: number }>(`SELECT COUNT(*) AS total FROM item i WHERE ${all}`, bind)
      : null;
  return { items: await itemRows(ctx, ids), total: count?.total ?? 0, next };
}

/**
 * A page begins after the last row of the one before, by what it sorts by and then its code, so that the thousandth is
 * found as fast as the first.
 */
async function pageOf(
  ctx: Reading,
  query: ItemQuery,
  where: string,
  bind: Record<string, string>,
  first: string,
): Promise<{ ids: number[]; next: string | null }> {
  const plain = query.sort === "code" && first === "";
  const by = plain ? "0" : SORT_BY[query.sort];
  const stocked = query.sort === "onHand" || query.sort === "free";
  const [order, beyond] = query.descending ? ["DESC", "<"] : ["", ">"];
  const after = query.after === undefined ? null : cursorOf(query.after);
  const from = plain
    ? `i.code_key ${beyond} $key`
    : `((${by}) ${beyond} $value OR (${by}) = $value AND i.code_key ${beyond} $key)`;
  const rows = await ctx.sql.all<{ id: number; value: string | number; key: string }>(
    `SELECT i.id, ${by} AS value, i.code_key AS key FROM item i ${stocked ? joinStock("i.id", "SELECT id FROM item") : ""} WHERE ${where} ${after ? `AND ${from}` : ""}
      ORDER BY ${plain ? "" : `(${by}) ${order},`} i.code_key ${order} LIMIT $limit`,
    {
      ...bind,
      ...(by.includes("$first") && { first }),
      ...(stocked && { today: ctx.today }),
      ...(after && { key: after[1], ...(!plain && { value: after[0] }) }),
      limit: query.limit + 1,
    },
  );
  const last = rows[query.limit - 1];
  const more = rows.length > query.limit && last;
  return {
    ids: rows.slice(0, query.limit).map((row) => row.id),
    next: more ? JSON.stringify([last.value, last.key]) : null,
  };
}

function cursorOf(text: string): [string | number, string] {
  try {
    const read: unknown = JSON.parse(text);
    if (Array.isArray(read) && read.length === 2 && typeof read[1] === "string") {
      const [value, key] = read;
      if (typeof value === "string" || typeof value === "number") return [value, key];
    }
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
  }
  throw Refusal.at("after", "invalid-input");
}

/** Items by their codes or barcodes, in the order asked; null where there is none. */
export async function lookUp(ctx: Reading, codes: readonly string[]): Promise<(ItemRow | null)[]> {
  const rows = await ctx.sql.all<{ at: number; id: number }>(
    `SELECT c.key AS at, COALESCE((SELECT id FROM item WHERE code_key = c.value ->> 0),
                                  (SELECT id FROM item WHERE barcode = c.value ->> 1 AND barcode <> '')) AS id
       FROM json_each($codes) c`,
    { codes: asJson(codes.map((code) => [codeKey(code), code.trim()])) },
  );
  const found = await itemRows(ctx, [...new Set(rows.flatMap((row) => row.id ?? []))]);
  const byId = new Map(found.map((item) => [item.id, item]));
  return rows.map((row) => byId.get(row.id) ?? null);
}

interface FullRow extends BriefRow, CostRow, StockRow {
  price: number | null;
  price_per: number;
  price_unit: string;
  group: string;
  drawn_at: DrawnAt;
  has_list: number;
  has_supplier: number;
}

/** Items with their figures, in the order of the ids. All that one row says is read at once: lists are long. */
export async function itemRows(ctx: Reading, ids: readonly number[]): Promise<ItemRow[]> {
  const rows = await ctx.sql.all<FullRow>(
    `SELECT ${BRIEF}, ${COST_COLUMNS}, ${STOCK_COLUMNS}, i.price, i.price_per, i.price_unit,
            COALESCE(g.name, '') AS "group", COALESCE(g.drawn_at, 'pick') AS drawn_at,
            CASE i.kind WHEN 'built' THEN ${mainInForce("i.id")} IS NOT NULL
                        WHEN 'kit' THEN EXISTS (SELECT 1 FROM kit_content WHERE kit_id = i.id) ELSE 0 END AS has_list,
            EXISTS (SELECT 1 FROM item_supplier WHERE item_id = i.id) AS has_supplier
       FROM json_each($ids) ids JOIN item i ON i.id = ids.value JOIN unit u ON u.code = i.unit
       LEFT JOIN item_group g ON g.id = i.group_id ${joinStock("i.id", IDS)}`,
    { ids: asJson(ids), today: ctx.today },
  );
  const unitCost = await costsFrom(ctx, rows);
  const byId = new Map(rows.map((row) => [row.id, row]));
  const sets = rows.filter((row) => row.kind === "kit").map((row) => row.id);
  const kits = await loadKits(ctx, sets);
  const contents = [...kits.values()].flatMap((kit) => kit.contents.map((content) => content.item));
  const contentStock = contents.length === 0 ? () => NO_STOCK : await stockFigures(ctx, contents);
  const contentPrice = contents.length === 0 ? () => null : await prices(ctx, contents);
  return ids.map((id) => {
    const row = byId.get(id);
    if (!row) throw new Refusal("not-found", { what: "item", id });
    const { kind, state } = row;
    const figures = stockOf(row);
    const kit = kits.get(id);
    const cost = unitCost(id);
    const ownPrice = rateOrNull(row.price, row.price_per);
    const price = kit ? kitPrice(ctx, kit, ownPrice, contentPrice) : ownPrice;
    const hasList = row.has_list === 1;
    // Assigned, not spread: V8 keeps what is spread among so many properties in a slow form.
    return Object.assign(briefFrom(row), {
      group: row.group,
      drawnAt: row.drawn_at,
      hasList,
      onHand: figures.onHand.toFixed(),
      reserved: figures.reserved.toFixed(),
      free: (kit ? freeSets(kit, contentStock) : free(figures)).toFixed(),
      value: moneyFromWhole(row.value).toFixed(4),
      ...costTexts(cost),
      price: priceText(ctx, price),
      pricePer: kit?.priceRule === "sum" ? "" : row.price_unit,
      priceRate: rateText(price),
      lacks: lacks({
        kind,
        state,
        hasCost: cost !== null,
        hasPrice: price !== null,
        hasList,
        hasSupplier: row.has_supplier === 1,
      }),
    });
  });
}

/** A rate as an answer tells it. */
export const rateText = (rate: Rate | null): { amount: string; per: string } | null =>
  rate && { amount: rate.amount.toFixed(), per: rate.per.toFixed() };

/** A sales price for one, in the currency's own decimals. */
export const priceText = (ctx: Reading, price: Rate | null): string | null =>
  price?.amount.toFixed(ctx.currencyDecimals) ?? null;

/** A unit cost as an answer tells it: rounded to be shown, and unrounded to be calculated with. */
export const costTexts = (cost: Rate | null) => ({
  unitCost: cost && eachAt(cost).toFixed(4),
  currentCost: rateText(cost),
});

/** Whole sets of a kit; a kit that nothing limits has none to count. */
function freeSets(kit: KeptKit, stock: (item: number) => StockFigures): Decimal {
  const { sets } = setsAvailable(kit.contents, stock);
  return sets === "no limit" ? ZERO : sets;
}

/** What a kit is sold at: its own price, or what follows from its contents. */
export function kitPrice(
  ctx: Reading,
  kit: KeptKit,
  own: Rate | null,
  priceOf: (item: number) => Rate | null,
): Rate | null {
  if (kit.priceRule === "own") return own;
  const price = priceOfContents(
    kit.contents.map(({ item, quantity }) => ({ quantity, price: priceOf(item), cost: null })),
    kit.discount,
    ctx.currencyDecimals,
  );
  return price && rateOf(price);
}

/** Own prices of items. */
export async function prices(ctx: Reading, items: Iterable<number>): Promise<(item: number) => Rate | null> {
  const rows = await ctx.sql.all<{ id: number; price: number; per: number }>(
    `SELECT i.id, i.price, i.price_per AS per FROM json_each($ids) ids JOIN item i ON i.id = ids.value
      WHERE i.price IS NOT NULL`,
    { ids: asJson(new Set(items)) },
  );
  const byId = new Map(rows.map((row) => [row.id, rateFromWhole(row.price, row.per)]));
  return (item) => byId.get(item) ?? null;
}

export async function itemById(ctx: Reading, id: number): Promise<ItemTableRow> {
  return (await itemsById(ctx, [id]))(id);
}

/** Items by their ids; asking for one that is not among them is refused. */
export async function itemsById(ctx: Reading, ids: Iterable<number>): Promise<(id: number) => ItemTableRow> {
  const rows = await ctx.sql.all<ItemTableRow>(
    "SELECT * FROM item WHERE id IN (SELECT value FROM json_each($ids))",
    { ids: asJson(new Set(ids)) },
  );
  const byId = new Map(rows.map((row) => [row.id, row]));
  return (id) => {
    const row = byId.get(id);
    if (!row) throw new Refusal("not-found", { what: "item", id });
    return row;
  };
}

/** A product whose list or builds are asked for. */
export async function productById(ctx: Reading, id: number): Promise<ItemTableRow> {
  const product = await itemById(ctx, id);
  if (product.kind !== "built")
    throw Refusal.at("product", "not-built", { code: product.code, kind: product.kind });
  return product;
}

const wholeMoney = (value: Decimal | null) => (value === null ? null : moneyToWhole(value));

/** Ids that the names in an item stand for. */
export interface ItemNames {
  storeId: (name: string) => number | null;
  groupId: (name: string) => number | null;
  units: Units;
}

/** Columns of an item from what was typed, all but its picture. */
export function itemColumns(
  item: Omit<ItemInput, "row">,
  { storeId, groupId, units }: ItemNames,
): Omit<ItemTableRow, "id" | "picture_id"> {
  const per = (unit: string) => {
    const quantity = pricedQuantity(unit, units.get(item.unit), units.values(), item.packs);
    if (quantity === null)
      throw new Error(`The prices of ${item.code} were checked, and ${unit} is no unit of it`);
    return quantityToWhole(quantity);
  };
  return {
    code: item.code,
    code_key: codeKey(item.code),
    name: item.name,
    search: searchText(item.code, item.name, item.barcode, item.makerNumber),
    kind: item.kind,
    unit: item.unit,
    tracking: item.tracking,
    group_id: item.group === "" ? null : groupId(item.group),
    barcode: item.barcode,
    standard_cost: wholeMoney(item.cost),
    cost_per: per(item.costPer),
    cost_unit: item.costPer,
    price: wholeMoney(item.price),
    price_per: per(item.pricePer),
    price_unit: item.pricePer,
    home_location_id: item.store === "" ? null : storeId(item.store),
    home_bin: item.bin,
    reorder_level: item.reorderLevel === null ? null : quantityToWhole(item.reorderLevel),
    build_days: item.buildDays,
    shelf_life: item.shelfLife,
    warranty_months: item.warrantyMonths,
    maker: item.maker,
    maker_number: item.makerNumber,
    lot_pattern: item.lotPattern,
    state: item.state,
    not_stock_tracked: item.notCounted ? 1 : 0,
    notes: item.notes,
  };
}

const COLUMNS = [
  "code",
  "code_key",
  "name",
  "search",
  "kind",
  "unit",
  "tracking",
  "group_id",
  "barcode",
  "standard_cost",
  "cost_per",
  "cost_unit",
  "price",
  "price_per",
  "price_unit",
  "home_location_id",
  "home_bin",
  "reorder_level",
  "build_days",
  "shelf_life",
  "warranty_months",
  "maker",
  "maker_number",
  "lot_pattern",
  "state",
  "not_stock_tracked",
  "notes",
] as const satisfies readonly (keyof ReturnType<typeof itemColumns>)[];

/** Makes items or writes them anew where their code is there, one from a form or thousands from a file. */
export async function writeItems(
  ctx: Writing,
  items: readonly Omit<ItemInput, "row">[],
  names: ItemNames,
): Promise<void> {
  const rows = items.map((item) => itemColumns(item, names));
  await ctx.sql.run(
    `INSERT INTO item (${COLUMNS.join(", ")})
     SELECT ${COLUMNS.map((column) => `value ->> '${column}'`).join(", ")} FROM json_each($rows) WHERE true
         ON CONFLICT (code_key) DO UPDATE SET ${COLUMNS.map((c) => `${c} = excluded.${c}`).join(", ")}`,
    { rows: asJson(rows) },
  );
  const packs = items.flatMap((item) =>
    item.packs.map((pack, position) => [
      codeKey(item.code),
      position,
      pack.name,
      quantityToWhole(pack.quantity),
    ]),
  );
  await ctx.sql.run(
    `DELETE FROM pack WHERE item_id IN (SELECT i.id FROM json_each($keys) k JOIN item i ON i.code_key = k.value)`,
    { keys: asJson(items.map((item) => codeKey(item.code))) },
  );
  await ctx.sql.run(
    `INSERT INTO pack (item_id, position, name, quantity)
     SELECT i.id, r.value ->> 1, r.value ->> 2, r.value ->> 3 FROM json_each($packs) r JOIN item i ON i.code_key = r.value ->> 0`,
    { packs: asJson(packs) },
  );
}

/** What lies where of an item. */
export async function lying(ctx: Reading, item: number) {
  const rows = await ctx.sql.all<{
    store: string;
    bin: string;
    lot: string;
    serial: string;
    expiry: string | null;
    quantity: number;
  }>(
    `SELECT p.name AS store, COALESCE(o.number, b.bin) AS bin, b.lot, b.serial, l.expiry, b.quantity
       FROM balance b LEFT JOIN build o ON b.owner = 'build' AND o.id = b.owner_id JOIN location p ON p.id = b.location_id LEFT JOIN lot l ON l.item_id = b.item_id AND l.code = b.lot
      WHERE b.item_id = $item AND b.quantity > 0
      ORDER BY l.expiry IS NULL, l.expiry, b.lot, p.name, b.bin, b.serial`,
    { item },
  );
  return rows.map((row) => ({
    ...row,
    expired: row.expiry !== null && row.expiry < ctx.today,
    quantity: quantityFromWhole(row.quantity).toFixed(),
  }));
}

/** Whether an item is kept on the books. */
export const stockedRow = (item: Pick<ItemTableRow, "kind" | "not_stock_tracked">): boolean =>
  isStocked({ kind: item.kind, notCounted: item.not_stock_tracked === 1 });
