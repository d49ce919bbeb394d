/** What other areas may read of this one's tables (docs/architecture.md). */
export const priceViews = {
  list_price: "SELECT price FROM price_step UNION ALL SELECT price FROM serial_price",
  price_list_head: `
SELECT l.id, l.customer_id, l.customer_group_key, (SELECT COUNT(*) FROM price_step s WHERE s.list_id = l.id) AS prices FROM price_list l`,
  serial_own_price: "SELECT item_id, serial, price FROM serial_price",
};
