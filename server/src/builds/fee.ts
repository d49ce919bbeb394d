import {
  type Decimal,
  decimal,
  divideRounded,
  MONEY_DECIMALS,
  quantityFromScaled,
  sum,
  valueAt,
} from "@yosegi/core";
import { type Reading, rateFromScaled } from "../db/index.ts";
import type { BuildTableRow } from "./tables.ts";

export interface Fee {
  total: Decimal;
  orders: { id: number; number: string; total: Decimal }[];
}

/**
 * What the outside workshop asks for a build: the lines for work of purchase orders to it that are for this build, the
 * part of each that is for it. Of a line whose rest was cancelled, only what was received is charged. A build on our own
 * bench has none.
 */
export async function feeOf(ctx: Reading, build: BuildTableRow): Promise<Fee> {
  if (build.subcontractor_id === null) return { total: sum([]), orders: [] };
  const rows = await ctx.sql.all<{
    id: number;
    number: string;
    quantity: number;
    charged: number;
    price: number;
    per: number;
    share: number;
  }>(
    `SELECT l.id, l.number, l.quantity, CASE WHEN l.closed THEN l.received ELSE MAX(l.quantity, l.received) END AS charged,
            l.price, l.price_per AS per, SUM(l.share) AS share
       FROM ordered_for_build l JOIN item_head i ON i.id = l.item_id
      WHERE l.build_id = $build AND i.kind = 'service' AND l.stage <> 'cancelled' AND l.supplier_id = $supplier
      GROUP BY l.line_id ORDER BY l.id, l.position`,
    { build: build.id, supplier: build.subcontractor_id },
  );
  const orders = rows.map(({ id, number, quantity, charged, price, per, share }) => {
    const fee = valueAt(quantityFromScaled(charged), rateFromScaled(price, per), ctx.currencyDecimals);
    return { id, number, total: divideRounded(fee.times(share), decimal(quantity), MONEY_DECIMALS) };
  });
  return { total: sum(orders.map((order) => order.total)), orders };
}
