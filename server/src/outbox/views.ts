/** What other areas may read of this one's tables (docs/architecture.md). */
export const outboxViews = {
  outbox_attachment: "SELECT outbox_id, file_id FROM outbox_file",
};
