/** What other areas may read of this one's tables (docs/architecture.md). */
export const fileViews = {
  file_head: "SELECT id, name, type FROM file",
};
