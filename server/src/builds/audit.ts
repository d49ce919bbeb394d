import { type Compare, shownMoney, shownQuantity } from "../ledger/index.ts";

/** What builds reserve and hold on the bench, and their finishes against what they moved: good units, their worth, parts used. */
export async function auditBuilds(compare: Compare): Promise<void> {
  await compare(
    "reservation",
    shownQuantity,
    `SELECT b.number || ' line ' || l.line AS label, l.open AS kept, 0 AS summed
       FROM build_line l JOIN build b ON b.id = l.build_id JOIN item_head i ON i.id = l.item_id
      WHERE l.open > 0 AND (b.stage NOT IN ('queued', 'on the bench') OR i.kind = 'service' OR i.not_stock_tracked = 1)`,
  );
  await compare(
    "bench",
    shownQuantity,
    `SELECT b.number || ' ' || i.code AS label, SUM(kept) AS kept, SUM(summed) AS summed
       FROM (SELECT build_id, item_id, bench AS kept, 0 AS summed FROM build_line
             UNION ALL SELECT owner_id, item_id, 0, quantity FROM stock_balance WHERE owner = 'build')
       JOIN build b ON b.id = build_id JOIN item_head i ON i.id = item_id
      GROUP BY build_id, item_id HAVING SUM(kept) <> SUM(summed)`,
  );
  const label = "b.number || ' of ' || o.day AS label";
  const built = (column: string) =>
    `(SELECT SUM(m.${column}) FROM stock_movement m WHERE m.posting_id = f.posting_id AND m.purpose = 'built')`;
  for (const [column, kept, show] of [
    ["quantity", "f.good", shownQuantity],
    ["value", "f.total", shownMoney],
  ] as const)
    await compare(
      "finish",
      show,
      `SELECT ${label}, ${kept} AS kept, ${built(column)} AS summed
         FROM finish f JOIN build b ON b.id = f.build_id JOIN posting_head o ON o.id = f.posting_id WHERE kept <> summed`,
    );
  await compare(
    "finish",
    shownQuantity,
    `SELECT b.number || ' ' || i.code AS label, SUM(kept) AS kept, SUM(summed) AS summed
       FROM (SELECT f.id AS finish, f.build_id, l.item_id, x.used AS kept, 0 AS summed
               FROM finish f JOIN finish_line x ON x.finish_id = f.id
               JOIN build_line l ON l.build_id = f.build_id AND l.line = x.line
             UNION ALL SELECT f.id, f.build_id, m.item_id, 0, m.quantity
               FROM finish f JOIN stock_movement m ON m.posting_id = f.posting_id AND m.purpose = 'used')
       JOIN build b ON b.id = build_id JOIN item_head i ON i.id = item_id
      GROUP BY finish, item_id HAVING SUM(summed) > 0 AND SUM(kept) <> SUM(summed)`,
  );
}
