/** What other areas may read of this one's tables (docs/architecture.md). */
export const pickingViews = {
  pick_round_head: "SELECT id, number, picker_id, ended_at FROM pick_round",
};
