/** What other areas may read of this one's tables (docs/architecture.md). */
export const pickingViews = {
  // Which round a document is in that is walked now.
  open_pick: `
SELECT d.kind, d.document_id, r.id AS round_id FROM pick_round r JOIN pick_document d ON d.round_id = r.id WHERE r.ended_at IS NULL`,
  pick_round_head: "SELECT id, number, picker_id, ended_at FROM pick_round",
};
