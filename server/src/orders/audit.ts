import { type Compare, shownQuantity } from "../ledger/index.ts";

/** An order that is not open any more reserves nothing. */
export async function auditOrders(compare: Compare): Promise<void> {
  await compare(
    "reservation",
    shownQuantity,
    `SELECT o.number || ' ' || i.code AS place, t.open AS kept, 0 AS summed
       FROM order_component t JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id JOIN item_head i ON i.id = t.item_id
      WHERE t.open > 0 AND o.stage <> 'open'`,
  );
}
