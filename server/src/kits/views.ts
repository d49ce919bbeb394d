/** What other areas may read of this one's tables (docs/architecture.md). */
export const kitViews = {
  kit_head: "SELECT item_id, price_rule, discount FROM kit",
  // A content, or an item that may be taken instead of the content `instead_of`.
  kit_part: `
SELECT kit_id, line, item_id, quantity, NULL AS instead_of FROM kit_content
 UNION ALL
SELECT s.kit_id, s.line, s.item_id, c.quantity, c.item_id
  FROM kit_swap s JOIN kit_content c ON c.kit_id = s.kit_id AND c.line = s.line`,
};
