/** What other areas may read of this one's tables (docs/architecture.md). */
export const returnViews = {
  return_head: "SELECT id, number, customer_id, shipment_id, posting_id, day, undone_at FROM customer_return",
};
