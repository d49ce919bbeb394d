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
  // What a numbered unit became, and which parts came out of it.
  rework_unit_part: `
SELECT r.out_posting_id AS posting_id, u.item_id, u.serial, r.item_id AS part_id, u.serial AS part_serial
  FROM rework_unit u JOIN rework r ON r.id = u.rework_id WHERE u.serial <> '' AND u.outcome = 'good' AND r.out_posting_id IS NOT NULL
 UNION ALL
SELECT r.out_posting_id, p.item_id, p.serial, r.item_id, u.serial
  FROM rework_recovered p JOIN rework_unit u ON u.rework_id = p.rework_id AND u.unit = p.unit JOIN rework r ON r.id = u.rework_id
 WHERE u.serial <> '' AND r.out_posting_id IS NOT NULL`,
};
