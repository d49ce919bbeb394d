/** What other areas may read of this one's tables (docs/architecture.md). */
export const priceViews = {
  list_price: "SELECT price FROM price_step UNION ALL SELECT price FROM serial_price",
  serial_own_price: "SELECT item_id, serial, price FROM serial_price",
};
