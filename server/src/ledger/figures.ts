import { NO_STOCK, quantityFromWhole, type StockFigures } from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";

/** What a query reads of stock by `stockColumns`. */
export interface StockRow {
  on_hand: number;
  expired: number;
  reserved: number;
}

/** SQL for what builds and open orders still have to take of an item. Served by build_line_open and sales_take_open. */
export const reservedOf = (item: string): string =>
  `((SELECT COALESCE(SUM(open), 0) FROM build_line WHERE item_id = ${item} AND open > 0)
    + (SELECT COALESCE(SUM(open), 0) FROM sales_take WHERE item_id = ${item} AND open > 0))`;

/** SQL for on hand and expired in usable places, and reserved, of an item. Served by the primary key of balance. */
export const stockColumns = (item: string): string => `
  (SELECT COALESCE(SUM(b.quantity), 0) FROM balance b JOIN place p ON p.id = b.place_id
    WHERE b.item_id = ${item} AND p.kind = 'store') AS on_hand,
  (SELECT COALESCE(SUM(b.quantity), 0) FROM balance b JOIN place p ON p.id = b.place_id
     JOIN lot l ON l.item_id = b.item_id AND l.code = b.lot
    WHERE b.item_id = ${item} AND p.kind = 'store' AND l.expiry < $today) AS expired,
  ${reservedOf(item)} AS reserved`;

export const stockOf = (row: StockRow): StockFigures => ({
  onHand: quantityFromWhole(row.on_hand),
  expired: quantityFromWhole(row.expired),
  reserved: quantityFromWhole(row.reserved),
});

/** On hand and expired in usable places, and reserved, of the items named. */
export async function stockFigures(
  ctx: Reading,
  items: Iterable<number>,
): Promise<(item: number) => StockFigures> {
  const rows = await ctx.sql.all<StockRow & { item: number }>(
    `SELECT ids.value AS item, ${stockColumns("ids.value")} FROM json_each($ids) ids`,
    { ids: asJson(new Set(items)), today: ctx.today },
  );
  const figures = new Map(rows.map((row) => [row.item, stockOf(row)]));
  return (item) => figures.get(item) ?? NO_STOCK;
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
    `SELECT l.item_id AS item, b.id AS build, NULL AS "order", b.number, SUM(l.open) AS quantity
       FROM json_each($ids) ids JOIN build_line l ON l.item_id = ids.value AND l.open > 0 JOIN build b ON b.id = l.build_id
      GROUP BY l.item_id, b.id
      UNION ALL
     SELECT t.item_id, NULL, o.id, o.number, SUM(t.open)
       FROM json_each($ids) ids JOIN sales_take t ON t.item_id = ids.value AND t.open > 0 JOIN sales_line l ON l.id = t.line_id
       JOIN sales_order o ON o.id = l.order_id GROUP BY t.item_id, o.id
      ORDER BY "order", build`,
    { ids: asJson(new Set(items)) },
  );
  return rows.map((row) => ({ ...row, quantity: quantityFromWhole(row.quantity).toFixed() }));
}
