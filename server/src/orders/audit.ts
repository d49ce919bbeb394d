import { type Compare, shownQuantity } from "../ledger/index.ts";
import { OPEN } from "./rows.ts";

/** An order that is not open reserves nothing; of what was ordered, what neither left nor was closed is open. */
export async function auditOrders(compare: Compare): Promise<void> {
  await compare(
    "reservation",
    shownQuantity,
    `SELECT o.number || ' ' || i.code AS label, t.open AS kept, 0 AS summed
       FROM order_component t JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id JOIN item_head i ON i.id = t.item_id
      WHERE t.open > 0 AND o.stage NOT IN (${OPEN})`,
  );
  await compare(
    "open",
    shownQuantity,
    `SELECT o.number || ' ' || i.code AS label, t.open + t.shipped + t.closed AS kept, CAST(t.per * l.quantity / 1000000 AS INTEGER) AS summed
       FROM order_component t JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id JOIN item_head i ON i.id = t.item_id
      WHERE o.stage <> 'quote' AND t.open + t.shipped + t.closed <> t.per * l.quantity / 1000000`,
  );
}
