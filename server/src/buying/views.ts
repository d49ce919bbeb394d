/** What other areas may read of this one's tables (docs/architecture.md). */
export const buyingViews = {
  // `next`: the day on which the first of what is still to come is expected.
  purchase_head: `
SELECT p.id, p.number, p.supplier_id, p.stage,
       (SELECT MIN(l.expected) FROM purchase_line l WHERE l.purchase_id = p.id AND l.open > 0) AS next
  FROM purchase p`,
  // What orders and drafts still ask for of an item.
  purchase_demand: `
SELECT l.purchase_id, l.item_id, CASE p.stage WHEN 'draft' THEN l.quantity ELSE l.open END AS quantity
  FROM purchase_line l JOIN purchase p ON p.id = l.purchase_id
 WHERE p.stage = 'draft' OR l.open > 0`,
  // What a line of a purchase order asks for, as far as it is for a line of a customer's order.
  ordered_for_line: `
SELECT n.order_line AS line_id, p.id AS purchase_id, p.number, p.stage, l.item_id, n.product_id, l.expected, n.quantity
  FROM purchase_need n JOIN purchase_line l ON l.id = n.line_id JOIN purchase p ON p.id = l.purchase_id
 WHERE n.order_line IS NOT NULL AND (p.stage = 'draft' OR l.open > 0)`,
  // What a supplier is to deliver straight to a customer, for a line of an order.
  direct_delivery: `
SELECT l.order_line AS line_id, p.id AS purchase_id, p.number, p.stage, l.expected,
       CASE p.stage WHEN 'draft' THEN l.quantity ELSE l.open END AS quantity
  FROM purchase_line l JOIN purchase p ON p.id = l.purchase_id
 WHERE l.order_line IS NOT NULL AND (p.stage = 'draft' OR l.open > 0)`,
  direct_line:
    "SELECT id AS purchase_line, purchase_id, order_line AS line_id FROM purchase_line WHERE order_line IS NOT NULL",
  // What is on order or on a draft of a part, as far as it is for a build: named by it, or for a line that the build is for.
  bought_for_build: `
SELECT n.build_id, l.item_id, p.id, p.number, p.stage, l.expected, n.quantity
  FROM purchase_need n JOIN purchase_line l ON l.id = n.line_id JOIN purchase p ON p.id = l.purchase_id
 WHERE n.build_id IS NOT NULL AND (p.stage = 'draft' OR l.open > 0)
 UNION ALL
SELECT a.build_id, l.item_id, p.id, p.number, p.stage, l.expected, n.quantity
  FROM purchase_need n JOIN purchase_line l ON l.id = n.line_id JOIN purchase p ON p.id = l.purchase_id
  JOIN allocation a ON a.line_id = n.order_line JOIN build b ON b.id = a.build_id AND b.product_id = n.product_id
 WHERE n.build_id IS NULL AND (p.stage = 'draft' OR l.open > 0)`,
  // What a line of a purchase order asks for, as far as it is for a build.
  ordered_for_build: `
SELECT n.build_id, p.id, p.number, p.supplier_id, p.stage, l.id AS line_id, l.position, l.item_id, l.quantity, l.received, l.closed,
       l.price, l.price_per, n.quantity AS share
  FROM purchase_need n JOIN purchase_line l ON l.id = n.line_id JOIN purchase p ON p.id = l.purchase_id
 WHERE n.build_id IS NOT NULL`,
};
