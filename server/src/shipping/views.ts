/** What other areas may read of this one's tables (docs/architecture.md). */
export const shippingViews = {
  shipment_head: "SELECT id, number, order_id, posting_id, day, receipt_id, undone_at FROM shipment",
  shipped_component: "SELECT shipment_id, line_id, item_id, quantity, revenue FROM shipment_component",
};
