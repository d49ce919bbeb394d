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
  finish_head: "SELECT id, build_id, undone_at FROM finish",
  build_part: "SELECT build_id, line, item_id, unit, open, bench FROM build_line",
  reserved_by_builds: `
SELECT item_id, open AS quantity, build_id, location_id AS own_location FROM build_line WHERE open > 0`,
};
