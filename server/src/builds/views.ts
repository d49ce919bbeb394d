/** What other areas may read of this one's tables (docs/architecture.md). */
export const buildViews = {
  build_head: `
SELECT id, number, product_id, stage, due, quantity, priority, list_id, revision_id, options, location_id, bin FROM build`,
  build_output: `
SELECT id AS build_id, number, stage, due, product_id, good,
       CASE WHEN stage IN ('draft', 'queued', 'on the bench') THEN MAX(0, MIN(wanted - good, quantity - good - rejected)) ELSE 0 END AS to_come
  FROM build`,
  build_rest: `
SELECT build_id, product_id, stage, to_come FROM build_output WHERE stage IN ('draft', 'queued', 'on the bench')`,
  // Which numbered parts went into which numbered unit, by the posting of the finish.
  unit_part: `
SELECT f.posting_id, p.item_id, p.serial, p.part_id, p.part_serial FROM serial_part p JOIN finish f ON f.id = p.finish_id`,
  finish_head: "SELECT id, build_id, posting_id, good, rejected, undone_at FROM finish",
  build_part: "SELECT build_id, line, item_id, unit, open, bench FROM build_line",
  // What is fetched before the work: what is drawn at pick, and all of it where a subcontractor does the build.
  to_hand_out: `
SELECT l.build_id, b.number, b.due, b.product_id, l.line, l.item_id, l.open, l.location_id
  FROM build b JOIN build_line l ON l.build_id = b.id JOIN item i ON i.id = l.item_id
 WHERE b.stage IN ('queued', 'on the bench') AND l.open > 0 AND i.not_stock_tracked = 0 AND i.kind <> 'service'
   AND (l.drawn_at = 'pick' OR b.subcontractor_id IS NOT NULL)`,
  reserved_by_builds: `
SELECT item_id, open AS quantity, build_id, location_id AS own_location FROM build_line WHERE open > 0`,
};
