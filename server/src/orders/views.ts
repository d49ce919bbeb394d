/** What other areas may read of this one's tables (docs/architecture.md). */
export const orderViews = {
  order_head: `
SELECT o.id, o.number, o.quote, o.reference, o.stage, o.due, o.customer_id, (SELECT COUNT(*) FROM sales_line l WHERE l.order_id = o.id) AS lines
  FROM sales_order o`,
  // `to_take` is still to be taken out of usable stock; what was shipped or is packed is `taken`.
  order_demand: `
SELECT t.line_id, o.id AS order_id, o.number, o.stage, o.due, o.precedence, l.line AS position, t.id AS component_id, t.item_id, t.open,
       t.open - t.packed AS to_take, t.shipped + t.packed AS taken, t.packed, f.id AS customer_id, f.code AS customer_code, f.name AS customer_name
  FROM order_component t JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id JOIN firm f ON f.id = o.customer_id
 WHERE l.by_supplier = 0`,
  // What left of each component, whatever became of its order.
  order_left: `
SELECT t.line_id, o.number, l.line AS position, t.item_id, t.shipped
  FROM order_component t JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id`,
  order_line_head: `
SELECT l.id AS line_id, l.line AS position, l.item_id, o.id AS order_id, o.number, o.stage, f.name AS customer_name
  FROM sales_line l JOIN sales_order o ON o.id = l.order_id JOIN firm f ON f.id = o.customer_id`,
  order_price: "SELECT price FROM sales_line WHERE price IS NOT NULL",
  reserved_by_orders: `
SELECT t.item_id, t.open - t.packed AS quantity, t.line_id
  FROM order_component t WHERE t.open > t.packed AND NOT EXISTS (SELECT 1 FROM sales_line l WHERE l.id = t.line_id AND l.by_supplier = 1)`,
};
