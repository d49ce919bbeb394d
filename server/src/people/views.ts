/** What other areas may read of this one's tables (docs/architecture.md). */
export const peopleViews = {
  person_name: "SELECT id, name, name_key FROM person",
};
