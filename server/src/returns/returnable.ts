import { type AnswerOf, Refusal, type routes } from "@yosegi/contract";
import { type Day, type Decimal, moneyFromScaled, quantityFromScaled, type ShippedPiece } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";

/** A shipment that goods come back from. */
export interface FromShipment {
  id: number;
  number: string;
  order: number;
  customer: number;
  day: Day;
}

/** A lot, a unit or a quantity as a shipment took it out of stock for a line. */
export interface Piece extends ShippedPiece {
  orderLine: number;
  item: number;
  lot: string;
  serial: string;
  /** What one of its stock unit brought when it was shipped. */
  broughtEach: { revenue: Decimal; quantity: Decimal };
}

/** The shipment, which must stand; the message names `field`. */
export async function shipmentOf(ctx: Reading, id: number, field = "shipment"): Promise<FromShipment> {
  const row = await ctx.sql.one<FromShipment & { undone: string | null }>(
    `SELECT s.id, s.number, s.order_id AS "order", o.customer_id AS customer, s.day, s.undone_at AS undone
       FROM shipment_head s JOIN order_head o ON o.id = s.order_id WHERE s.id = $id`,
    { id },
  );
  if (!row) throw Refusal.at(field, "not-found", { what: "shipment", id });
  const { undone, ...shipment } = row;
  if (undone !== null) throw Refusal.at(field, "shipment-undone", { number: row.number });
  return shipment;
}

/** What a shipment took out of stock, piece by piece, with what it carried and what of it came back. */
export async function shippedPieces(ctx: Reading, shipment: number): Promise<Piece[]> {
  const rows = await ctx.sql.all<{
    orderLine: number;
    item: number;
    lot: string;
    serial: string;
    quantity: number;
    value: number;
    returned: number;
    revenue: number;
    of: number;
  }>(
    `WITH piece AS (
       SELECT m.source_line AS orderLine, m.item_id AS item, m.lot, m.serial, SUM(m.quantity) AS quantity, SUM(m.value) AS value, MIN(m.id) AS first
         FROM shipment_head s JOIN stock_movement m ON m.posting_id = s.posting_id AND m.purpose = 'shipped' WHERE s.id = $shipment GROUP BY 1, 2, 3, 4)
     SELECT p.orderLine, p.item, p.lot, p.serial, p.quantity, p.value, COALESCE(c.revenue, 0) AS revenue, COALESCE(c.quantity, p.quantity) AS "of",
            (SELECT COALESCE(SUM(l.quantity), 0) FROM return_line l JOIN customer_return r ON r.id = l.return_id AND r.undone_at IS NULL
              WHERE r.shipment_id = $shipment AND l.order_line_id = p.orderLine AND l.item_id = p.item AND l.lot = p.lot AND l.serial = p.serial) AS returned
       FROM piece p LEFT JOIN shipped_component c ON c.shipment_id = $shipment AND c.line_id = p.orderLine AND c.item_id = p.item ORDER BY p.first`,
    { shipment },
  );
  return rows.map(({ orderLine, item, lot, serial, ...row }) => ({
    orderLine,
    item,
    lot,
    serial,
    quantity: quantityFromScaled(row.quantity),
    value: moneyFromScaled(row.value),
    returned: quantityFromScaled(row.returned),
    broughtEach: { revenue: moneyFromScaled(row.revenue), quantity: quantityFromScaled(row.of) },
  }));
}

/** The same as a person chooses from it. */
export async function returnable(ctx: Reading, id: number): Promise<AnswerOf<typeof routes.returnable>> {
  const { number, customer } = await shipmentOf(ctx, id);
  const pieces = await shippedPieces(ctx, id);
  const sold = await ctx.sql.all<{ line: number; item: number }>(
    `SELECT DISTINCT h.line_id AS line, h.item_id AS item FROM shipped_component c JOIN order_line_head h ON h.line_id = c.line_id WHERE c.shipment_id = $id`,
    { id },
  );
  const soldOf = new Map(sold.map(({ line, item }) => [line, item]));
  const brief = await briefs(
    ctx,
    [...sold, ...pieces].map(({ item }) => item),
  );
  const firm = await ctx.sql.one<{ id: number; code: string; name: string }>(
    "SELECT id, code, name FROM firm_head WHERE id = $customer",
    { customer },
  );
  return {
    number,
    customer: firm ?? { id: customer, code: "", name: "" },
    pieces: pieces.map(({ orderLine, item, lot, serial, quantity, returned }) => ({
      orderLine,
      sold: brief(soldOf.get(orderLine) ?? item),
      item: brief(item),
      lot,
      serial,
      shipped: quantity.toFixed(),
      returned: returned.toFixed(),
      open: quantity.minus(returned).toFixed(),
    })),
  };
}
