/** What other areas may read of this one's tables (docs/architecture.md). */
export const countsViews = {
  count_sheet_head: "SELECT id, number, state, note, person_id FROM count_sheet",
};
