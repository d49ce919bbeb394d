/** What other areas may read of this one's tables (docs/architecture.md). */
export const takeApartViews = {
  take_apart_head:
    "SELECT id, number, item_id, lot, serial, quantity, build_id, posting_id, return_id, charged, undone_at FROM take_apart",
};
