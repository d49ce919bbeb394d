import { moneyFromWhole, quantityFromWhole } from "@yosegi/core";
import type { Reading } from "../db/index.ts";

/** One figure that does not agree with the sum of movements. */
export interface AuditDifference {
  what:
    | "balance"
    | "pool quantity"
    | "pool value"
    | "reservation"
    | "bench"
    | "received"
    | "still to come"
    | "receipt";
  where: string;
  books: string;
  ledger: string;
}

type Compare = (what: AuditDifference["what"], show: (whole: number) => string, sql: string) => Promise<void>;

interface Row {
  place: string;
  kept: number;
  summed: number;
}

/** Compares what is kept in step (balances, pools, reservations) with what it must be the sum of. Empty: all agrees. */
export async function audit(ctx: Reading): Promise<AuditDifference[]> {
  const found: AuditDifference[] = [];
  const compare: Compare = async (what, show, sql) => {
    for (const row of await ctx.sql.all<Row>(sql))
      found.push({ what, where: row.place, books: show(row.kept), ledger: show(row.summed) });
  };
  const quantity = (whole: number) => quantityFromWhole(whole).toFixed();
  const money = (whole: number) => moneyFromWhole(whole).toFixed();
  await compare(
    "balance",
    quantity,
    `SELECT i.code || ' at ' || p.name || ' ' || bin || ' ' || lot || ' ' || serial AS place,
            SUM(kept) AS kept, SUM(summed) AS summed
       FROM (SELECT item_id, lot, serial, place_id, bin, build_id, quantity AS kept, 0 AS summed FROM balance
             UNION ALL SELECT item_id, lot, serial, to_place, to_bin, COALESCE(to_build, 0), 0, quantity FROM movement
                        WHERE to_place IS NOT NULL
             UNION ALL SELECT item_id, lot, serial, from_place, from_bin, COALESCE(from_build, 0), 0, -quantity FROM movement
                        WHERE from_place IS NOT NULL)
       JOIN item i ON i.id = item_id JOIN place p ON p.id = place_id
      GROUP BY item_id, lot, serial, place_id, bin, build_id HAVING SUM(kept) <> SUM(summed)`,
  );
  // A movement adds to the pool it comes into and takes from the one it leaves; within one pool it does neither.
  for (const [what, column, show] of [
    ["pool quantity", "quantity", quantity],
    ["pool value", "value", money],
  ] as const)
    await compare(
      what,
      show,
      `SELECT i.code || ' ' || lot || ' ' || serial AS place, SUM(kept) AS kept, SUM(summed) AS summed
         FROM (SELECT item_id, lot, serial, build_id, ${column} AS kept, 0 AS summed FROM pool
               UNION ALL SELECT item_id, lot, serial, COALESCE(to_build, 0), 0, ${column} FROM movement
                          WHERE to_place IS NOT NULL
               UNION ALL SELECT item_id, lot, serial, COALESCE(from_build, 0), 0, -${column} FROM movement
                          WHERE from_place IS NOT NULL)
         JOIN item i ON i.id = item_id
        GROUP BY item_id, lot, serial, build_id HAVING SUM(kept) <> SUM(summed)`,
    );
  await compare(
    "reservation",
    quantity,
    `SELECT b.number || ' line ' || l.line AS place, l.open AS kept, 0 AS summed
       FROM build_line l JOIN build b ON b.id = l.build_id JOIN item i ON i.id = l.item_id
      WHERE l.open > 0 AND (b.stage NOT IN ('queued', 'on the bench') OR i.kind = 'service' OR i.not_counted = 1)`,
  );
  await compare(
    "reservation",
    quantity,
    `SELECT o.number || ' ' || i.code AS place, t.open AS kept, 0 AS summed
       FROM sales_take t JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id JOIN item i ON i.id = t.item_id
      WHERE t.open > 0 AND o.stage <> 'open'`,
  );
  await compare(
    "bench",
    quantity,
    `SELECT b.number || ' ' || i.code AS place, SUM(kept) AS kept, SUM(summed) AS summed
       FROM (SELECT build_id, item_id, bench AS kept, 0 AS summed FROM build_line
             UNION ALL SELECT build_id, item_id, 0, quantity FROM balance WHERE build_id > 0)
       JOIN build b ON b.id = build_id JOIN item i ON i.id = item_id
      GROUP BY build_id, item_id HAVING SUM(kept) <> SUM(summed)`,
  );
  await auditPurchases(compare, quantity);
  return found;
}

/** Purchase orders against their receipts, and receipts against what they moved. */
async function auditPurchases(compare: Compare, quantity: (whole: number) => string): Promise<void> {
  const line = "p.number || ' line ' || l.position AS place";
  await compare(
    "received",
    quantity,
    `SELECT ${line}, l.received AS kept,
            (SELECT COALESCE(SUM(x.quantity), 0) FROM receipt_line x JOIN receipt r ON r.id = x.receipt_id
              WHERE x.line_id = l.id AND r.undone_at IS NULL) AS summed
       FROM purchase_line l JOIN purchase p ON p.id = l.purchase_id WHERE kept <> summed`,
  );
  await compare(
    "still to come",
    quantity,
    `SELECT ${line}, l.open AS kept,
            CASE WHEN l.closed = 1 OR p.stage NOT IN ('sent', 'part received') THEN 0 ELSE MAX(0, l.quantity - l.received) END AS summed
       FROM purchase_line l JOIN purchase p ON p.id = l.purchase_id WHERE kept <> summed`,
  );
  await compare(
    "receipt",
    quantity,
    `SELECT r.number || ' ' || i.code AS place, SUM(kept) AS kept, SUM(summed) AS summed
       FROM (SELECT x.receipt_id AS receipt, l.item_id, x.quantity AS kept, 0 AS summed
               FROM receipt_line x JOIN purchase_line l ON l.id = x.line_id WHERE x.place_id IS NOT NULL
             UNION ALL SELECT r.id, m.item_id, 0, m.quantity FROM receipt r JOIN movement m ON m.posting_id = r.posting_id)
       JOIN receipt r ON r.id = receipt JOIN item i ON i.id = item_id
      GROUP BY receipt, item_id HAVING SUM(kept) <> SUM(summed)`,
  );
}
