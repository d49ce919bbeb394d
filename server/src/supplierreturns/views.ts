/** What other areas may read of this one's tables (docs/architecture.md). */
export const supplierReturnViews = {
  supplier_return_head: "SELECT id, number, supplier_id, undone_at FROM supplier_return",
};
