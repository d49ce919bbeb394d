import { type ItemBrief, type ItemRow, Refusal } from "@yosegi/contract";
import {
  codeKey,
  type Decimal,
  free,
  type ItemRow as ItemInput,
  type KnownItem,
  moneyFromWhole,
  moneyToWhole,
  quantityFromWhole,
  searchText,
} from "@yosegi/core";
import { asJson, type ItemTableRow, type Reading, type Writing } from "../db/index.ts";
import { stockFigures } from "../ledger/index.ts";
import { currentCosts } from "./costs.ts";

/** What is told of an item wherever it is named, by id. */
export async function briefs(ctx: Reading, ids: Iterable<number>): Promise<(item: number) => ItemBrief> {
  const rows = await ctx.sql.all<ItemBrief>(
    `SELECT i.id, i.code, i.name, i.kind, i.tracking, i.unit, u.decimals
       FROM json_each($ids) ids JOIN item i ON i.id = ids.value JOIN unit u ON u.code = i.unit`,
    { ids: asJson(new Set(ids)) },
  );
  const byId = new Map(rows.map((row) => [row.id, row]));
  return (item) => {
    const found = byId.get(item);
    if (!found) throw new Refusal("not-found", { what: "item", id: item });
    return found;
  };
}

export interface ItemFilter {
  search: string;
  kind?: string | undefined;
  limit: number;
}

/** Items whose code or name has every word of the search, by code; a code that begins with the search comes first. */
export async function findItems(
  ctx: Reading,
  filter: ItemFilter,
): Promise<{ items: ItemRow[]; total: number }> {
  const words = searchText(filter.search).split(/\s+/).filter(Boolean);
  const where = words.map((_, i) => `AND instr(i.search, $word${i}) > 0`).join(" ");
  const bind = Object.fromEntries(words.map((word, i) => [`word${i}`, word]));
  const kind = filter.kind ?? "";
  const from = `FROM item i WHERE ($kind = '' OR i.kind = $kind) ${where}`;
  const first = words[0] ?? "";
  const ids = await ctx.sql.all<{ id: number }>(
    `SELECT i.id ${from} ORDER BY instr(i.search, $first) <> 1, i.code_key LIMIT $limit`,
    { ...bind, kind, first, limit: filter.limit },
  );
  const count = await ctx.sql.one<{ total: number }>(`SELECT COUNT(*) AS total ${from}`, { ...bind, kind });
  return {
    items: await itemRows(
      ctx,
      ids.map((row) => row.id),
    ),
    total: count?.total ?? 0,
  };
}

/** Items with their figures, in the order of the ids. */
export async function itemRows(ctx: Reading, ids: readonly number[]): Promise<ItemRow[]> {
  const brief = await briefs(ctx, ids);
  const stock = await stockFigures(ctx, ids);
  const unitCost = await currentCosts(ctx, ids);
  const more = await ctx.sql.all<{ id: number; price: number | null; has_list: number; value: number }>(
    `SELECT i.id, i.price, EXISTS (SELECT 1 FROM parts_list WHERE product_id = i.id) AS has_list,
            (SELECT COALESCE(SUM(value), 0) FROM pool WHERE item_id = i.id) AS value
       FROM json_each($ids) ids JOIN item i ON i.id = ids.value`,
    { ids: asJson(ids) },
  );
  const moreOf = new Map(more.map((row) => [row.id, row]));
  return ids.map((id) => {
    const figures = stock(id);
    const row = moreOf.get(id);
    return {
      ...brief(id),
      hasList: row?.has_list === 1,
      onHand: figures.onHand.toFixed(),
      reserved: figures.reserved.toFixed(),
      free: free(figures).toFixed(),
      value: moneyFromWhole(row?.value ?? 0).toFixed(4),
      unitCost: unitCost(id)?.toFixed(4) ?? null,
      price: row?.price == null ? null : moneyFromWhole(row.price).toFixed(2),
    };
  });
}

export async function itemById(ctx: Reading, id: number): Promise<ItemTableRow> {
  const row = await ctx.models.item.findByPk(id, { transaction: ctx.sql.transaction });
  if (!row) throw new Refusal("not-found", { what: "item", id });
  return row.get({ plain: true });
}

/** The whole catalog as checks of rows see it, by code key. */
export async function knownItems(ctx: Reading): Promise<Map<string, KnownItem & { id: number }>> {
  const rows = await ctx.sql.all<
    Omit<KnownItem, "cost" | "parts" | "hasStock"> & {
      id: number;
      key: string;
      cost: number | null;
      stocked: number;
      has_list: number;
    }
  >(
    `SELECT i.id, i.code_key AS key, i.code, i.kind, i.tracking, i.unit, i.standard_cost AS cost,
            EXISTS (SELECT 1 FROM movement WHERE item_id = i.id) AS stocked,
            EXISTS (SELECT 1 FROM parts_list WHERE product_id = i.id) AS has_list
       FROM item i`,
  );
  const parts = await ctx.sql.all<{ product: number; part: string }>(
    `SELECT p.product_id AS product, i.code_key AS part
       FROM parts_list p JOIN parts_list_line l ON l.list_id = p.id JOIN item i ON i.id = l.item_id`,
  );
  const partsOf = new Map<number, string[]>();
  for (const { product, part } of parts) partsOf.set(product, [...(partsOf.get(product) ?? []), part]);
  return new Map(
    rows.map(({ key, stocked, has_list, cost, ...row }) => [
      key,
      {
        ...row,
        cost: cost === null ? null : moneyFromWhole(cost),
        hasStock: stocked === 1,
        parts: has_list === 1 ? (partsOf.get(row.id) ?? []) : null,
      },
    ]),
  );
}

const wholeMoney = (value: Decimal | null) => (value === null ? null : moneyToWhole(value));

/** Columns of an item from what was typed; `storeId` is the home store's. */
export function itemColumns(item: Omit<ItemInput, "row">, storeId: number | null): Omit<ItemTableRow, "id"> {
  return {
    code: item.code,
    code_key: codeKey(item.code),
    name: item.name,
    search: searchText(item.code, item.name),
    kind: item.kind,
    unit: item.unit,
    tracking: item.tracking,
    standard_cost: wholeMoney(item.cost),
    price: wholeMoney(item.price),
    home_place_id: storeId,
    home_bin: item.bin,
  };
}

/** Makes items, one from a form or thousands from a file. */
export async function createItems(
  ctx: Writing,
  items: readonly Omit<ItemInput, "row">[],
  storeId: (name: string) => number | null,
): Promise<void> {
  await ctx.models.item.bulkCreate(
    items.map((item) => itemColumns(item, storeId(item.store))),
    { transaction: ctx.transaction },
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
    `SELECT p.name AS store, b.bin, b.lot, b.serial, l.expiry, b.quantity
       FROM balance b JOIN place p ON p.id = b.place_id LEFT JOIN lot l ON l.item_id = b.item_id AND l.code = b.lot
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
