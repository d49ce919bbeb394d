import { NO_STOCK, quantityFromScaled, type StockFigures } from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";

// What is on hand, reserved and incoming has one definition each, as the views usable_stock, reserved (with document and day:
// reservation) and incoming. The items they are asked for are named by `IN`, which SQLite takes into each branch of a view;
// it does not so with a join.

/** The sum of what is reserved of an item, as `joinReserved` joins it. */
export const RESERVED = "COALESCE(rb.quantity, 0) + COALESCE(ro.quantity, 0)";

/** SQL that adds up what is reserved, of the items that `ids` selects. Builds and orders apart: both have an index in this order. */
export const joinReserved = (item: string, ids: string, builds = "true"): string => `
  LEFT JOIN (SELECT item_id, SUM(quantity) AS quantity FROM reserved_by_builds
              WHERE item_id IN (${ids}) AND ${builds} GROUP BY item_id) rb ON rb.item_id = ${item}
  LEFT JOIN (SELECT item_id, SUM(quantity) AS quantity FROM reserved_by_orders
              WHERE item_id IN (${ids}) GROUP BY item_id) ro ON ro.item_id = ${item}`;

/** What a query reads of stock by `STOCK_COLUMNS`. */
export interface StockRow {
  on_hand: number;
  expired: number;
  reserved: number;
}

export const STOCK_COLUMNS = `COALESCE(st.on_hand, 0) AS on_hand, COALESCE(st.expired, 0) AS expired, ${RESERVED} AS reserved`;

/** SQL that joins the stock figures of an item, among those that `ids` selects; needs $today. */
export const joinStock = (item: string, ids: string): string => `
  LEFT JOIN (SELECT item_id, SUM(quantity) AS on_hand, SUM(CASE WHEN expiry < $today THEN quantity ELSE 0 END) AS expired
               FROM usable_stock WHERE item_id IN (${ids}) GROUP BY item_id) st ON st.item_id = ${item}
  ${joinReserved(item, ids)}`;

/** The ids bound as $ids. */
export const IDS = "SELECT value FROM json_each($ids)";

export const stockOf = (row: StockRow): StockFigures => ({
  onHand: quantityFromScaled(row.on_hand),
  expired: quantityFromScaled(row.expired),
  reserved: quantityFromScaled(row.reserved),
});

/** The same in whole millionths, as far as it counts for orders and builds: without expired lots. */
export const usableOf = ({ on_hand, expired }: StockRow): number => on_hand - expired;

/** Stock figures of the items named, as the database keeps them. */
export async function stockRows(ctx: Reading, items: Iterable<number>): Promise<(item: number) => StockRow> {
  const rows = await ctx.sql.all<StockRow & { item: number }>(
    `SELECT ids.value AS item, ${STOCK_COLUMNS} FROM json_each($ids) ids ${joinStock("ids.value", IDS)}`,
    { ids: asJson(new Set(items)), today: ctx.today },
  );
  const found = new Map(rows.map((row) => [row.item, row]));
  return (item) => found.get(item) ?? NOTHING;
}

const NOTHING: StockRow = { on_hand: 0, expired: 0, reserved: 0 };

/** On hand and expired in usable places, and reserved, of the items named. */
export async function stockFigures(
  ctx: Reading,
  items: Iterable<number>,
): Promise<(item: number) => StockFigures> {
  const rows = await stockRows(ctx, items);
  return (item) => {
    const row = rows(item);
    return row === NOTHING ? NO_STOCK : stockOf(row);
  };
}

/** What one document holds of an item; either a build or an order. */
export interface Reservation {
  item: number;
  build: number | null;
  order: number | null;
  number: string;
  quantity: string;
}

/** Which builds and open orders hold how much of the items named. */
export async function reservations(ctx: Reading, items: Iterable<number>): Promise<Reservation[]> {
  const rows = await ctx.sql.all<Omit<Reservation, "quantity"> & { quantity: number }>(
    `SELECT item_id AS item, build_id AS build, order_id AS "order", number, SUM(quantity) AS quantity
       FROM reservation WHERE item_id IN (${IDS}) GROUP BY 1, 2, 3, 4 ORDER BY 3, 2`,
    { ids: asJson(new Set(items)) },
  );
  return rows.map((row) => ({ ...row, quantity: quantityFromScaled(row.quantity).toFixed() }));
}
