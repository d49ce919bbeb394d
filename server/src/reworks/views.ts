/** What other areas may read of this one's tables (docs/architecture.md). */
export const reworkViews = {
  rework_head:
    "SELECT id, number, item_id, customer_id, theirs, due, assigned_id, reason, out_at, undone_at FROM rework",
  rework_unit_head: "SELECT rework_id, unit, item_id, lot, serial, return_id, outcome FROM rework_unit",
  open_rework_step: `
SELECT s.id, s.rework_id, r.number, r.item_id, s.what, s.person_id, s.supplier_id, s.due, s.hour, s.state
  FROM rework_step s JOIN rework r ON r.id = s.rework_id
 WHERE s.state <> 'done' AND r.out_at IS NULL AND r.undone_at IS NULL`,
  rework_out:
    "SELECT out_posting_id AS posting_id, id, number, customer_id, theirs FROM rework WHERE out_posting_id IS NOT NULL",
  // What a finished rework put into each unit that it did not scrap, and for how many units that was.
  rework_added: `
SELECT r.id, r.number, r.item_id AS was_id, COALESCE(u.item_id, r.item_id) AS item_id, u.serial,
       p.item_id AS part_id, p.quantity, p.lot AS part_lot, p.serial AS part_serial,
       CASE WHEN p.unit IS NULL THEN (SELECT SUM(o.quantity) FROM rework_unit o WHERE o.rework_id = r.id) ELSE u.quantity END AS units
  FROM rework r JOIN rework_unit u ON u.rework_id = r.id JOIN rework_part p ON p.rework_id = r.id AND (p.unit IS NULL OR p.unit = u.unit)
 WHERE u.outcome = 'good' AND p.posting_id IS NOT NULL AND r.out_posting_id IS NOT NULL`,
  // What each unit became, or which parts came out of it; and which unit each part was for, with what that became.
  rework_unit_part: `
SELECT r.out_posting_id AS posting_id, COALESCE(u.item_id, r.item_id) AS item_id, u.lot, u.serial,
       r.item_id AS part_id, u.lot AS part_lot, u.serial AS part_serial
  FROM rework r JOIN rework_unit u ON u.rework_id = r.id WHERE u.outcome <> 'parts' AND r.out_posting_id IS NOT NULL
 UNION ALL
SELECT r.out_posting_id, c.item_id, c.lot, c.serial, r.item_id, u.lot, u.serial
  FROM rework r JOIN rework_unit u ON u.rework_id = r.id JOIN rework_recovered c ON c.rework_id = r.id AND c.unit = u.unit
 WHERE r.out_posting_id IS NOT NULL
 UNION ALL
SELECT r.out_posting_id, COALESCE(u.item_id, r.item_id), u.lot, u.serial, p.item_id, p.lot, p.serial
  FROM rework r JOIN rework_part p ON p.rework_id = r.id JOIN rework_unit u ON u.rework_id = r.id AND (p.unit IS NULL OR p.unit = u.unit)
 WHERE u.outcome <> 'parts' AND p.posting_id IS NOT NULL AND r.out_posting_id IS NOT NULL
 UNION ALL
SELECT r.out_posting_id, c.item_id, c.lot, c.serial, p.item_id, p.lot, p.serial
  FROM rework r JOIN rework_part p ON p.rework_id = r.id JOIN rework_recovered c ON c.rework_id = r.id AND (p.unit IS NULL OR p.unit = c.unit)
 WHERE p.posting_id IS NOT NULL AND r.out_posting_id IS NOT NULL`,
};
