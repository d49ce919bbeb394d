/** What other areas may read of this one's tables (docs/architecture.md). */
export const returnViews = {
  return_head: "SELECT id, number, customer_id, shipment_id, posting_id, day, undone_at FROM customer_return",
  // Returns of which something is still to be inspected.
  return_to_inspect: `
SELECT r.id, r.number, r.customer_id, r.day FROM customer_return r
 WHERE r.undone_at IS NULL AND EXISTS (SELECT 1 FROM return_line l WHERE l.return_id = r.id AND l.inspected < l.quantity)`,
};
