import { NO_STOCK, quantityFromWhole, type StockFigures } from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";

/** What a query reads of stock by `stockColumns`. */
export interface StockRow {
  on_hand: number;
  expired: number;
  reserved: number;
}

/** SQL for on hand and expired in usable places, and reserved, of an item. Served by the primary key of balance and build_line_open. */
export const stockColumns = (item: string): string => `
  (SELECT COALESCE(SUM(b.quantity), 0) FROM balance b JOIN place p ON p.id = b.place_id
    WHERE b.item_id = ${item} AND p.kind = 'store') AS on_hand,
  (SELECT COALESCE(SUM(b.quantity), 0) FROM balance b JOIN place p ON p.id = b.place_id
     JOIN lot l ON l.item_id = b.item_id AND l.code = b.lot
    WHERE b.item_id = ${item} AND p.kind = 'store' AND l.expiry < $today) AS expired,
  (SELECT COALESCE(SUM(open), 0) FROM build_line WHERE item_id = ${item} AND open > 0) AS reserved`;

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

export interface Reservation {
  item: number;
  build: number;
  number: string;
  quantity: string;
}

/** Which builds hold how much of the items named. */
export async function reservations(ctx: Reading, items: Iterable<number>): Promise<Reservation[]> {
  const rows = await ctx.sql.all<{ item: number; build: number; number: string; quantity: number }>(
    `SELECT l.item_id AS item, b.id AS build, b.number, SUM(l.open) AS quantity
       FROM json_each($ids) ids JOIN build_line l ON l.item_id = ids.value AND l.open > 0 JOIN build b ON b.id = l.build_id
      GROUP BY l.item_id, b.id ORDER BY b.id`,
    { ids: asJson(new Set(items)) },
  );
  return rows.map((row) => ({ ...row, quantity: quantityFromWhole(row.quantity).toFixed() }));
}
