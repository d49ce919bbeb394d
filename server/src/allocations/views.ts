/** What other areas may read of this one's tables (docs/architecture.md). */
export const allocationViews = {
  allocated_order: `
SELECT a.build_id, a.line_id, a.quantity, o.number, f.name AS customer_name
  FROM allocation a JOIN sales_line l ON l.id = a.line_id JOIN sales_order o ON o.id = l.order_id JOIN firm f ON f.id = o.customer_id`,
};
