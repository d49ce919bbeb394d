/** What other areas may read of this one's tables (docs/architecture.md). */
export const listViews = {
  list_head: "SELECT id, product_id, name, name_key, main FROM parts_list",
  revision_head: `
SELECT r.id, r.list_id, l.product_id, l.name AS list, l.main, r.number, r.state, r.starts, r.starts_on, r.starts_after, r.makes, r.usual, r.instructions
  FROM revision r JOIN parts_list l ON l.id = r.list_id`,
  // A part, or a substitute for the part `instead_of`, whose quantity is for one of it in its own stock unit.
  list_part: `
SELECT revision_id, line, item_id, quantity, unit, NULL AS instead_of FROM revision_line
 UNION ALL
SELECT s.revision_id, s.line, s.item_id, s.quantity, i.unit, l.item_id
  FROM line_substitute s JOIN revision_line l ON l.revision_id = s.revision_id AND l.line = s.line JOIN item i ON i.id = s.item_id`,
};
