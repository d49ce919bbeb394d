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
    "packed",
    shownQuantity,
    `SELECT n.number || ' ' || i.code AS label, COALESCE(c.packed, 0) AS kept, COALESCE(b.quantity, 0) AS summed
       FROM (SELECT o.id, o.number, t.item_id FROM order_component t JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id
              UNION SELECT o.id, o.number, b.item_id FROM stock_balance b JOIN location_head p ON p.id = b.location_id AND p.kind = 'packed'
                      JOIN sales_order o ON o.number = b.bin) n
       JOIN item_head i ON i.id = n.item_id
       LEFT JOIN (SELECT l.order_id, t.item_id, SUM(t.packed) AS packed FROM order_component t JOIN sales_line l ON l.id = t.line_id GROUP BY 1, 2) c
         ON c.order_id = n.id AND c.item_id = n.item_id
       LEFT JOIN (SELECT b.bin, b.item_id, SUM(b.quantity) AS quantity FROM stock_balance b JOIN location_head p ON p.id = b.location_id AND p.kind = 'packed' GROUP BY 1, 2) b
         ON b.bin = n.number AND b.item_id = n.item_id
      WHERE COALESCE(c.packed, 0) <> COALESCE(b.quantity, 0)`,
  );
  await compare(
    "open",
    shownQuantity,
    `SELECT o.number || ' ' || i.code AS label, t.open + t.shipped + t.closed AS kept, CAST(t.per * l.quantity / 1000000 AS INTEGER) AS summed
       FROM order_component t JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id JOIN item_head i ON i.id = t.item_id
      WHERE o.stage <> 'quote' AND t.open + t.shipped + t.closed <> t.per * l.quantity / 1000000`,
  );
}
