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
    | "receipt"
    | "values of a posting"
    | "serial"
    | "finish";
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
       FROM (SELECT item_id, lot, serial, location_id, bin, owner, owner_id, quantity AS kept, 0 AS summed FROM balance
             UNION ALL SELECT item_id, lot, serial, to_location, to_bin, to_owner, to_owner_id, 0, quantity FROM movement
                        WHERE to_location IS NOT NULL
             UNION ALL SELECT item_id, lot, serial, from_location, from_bin, from_owner, from_owner_id, 0, -quantity FROM movement
                        WHERE from_location IS NOT NULL)
       JOIN item i ON i.id = item_id JOIN location p ON p.id = location_id
      GROUP BY item_id, lot, serial, location_id, bin, owner, owner_id HAVING SUM(kept) <> SUM(summed)`,
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
         FROM (SELECT item_id, lot, serial, owner, owner_id, ${column} AS kept, 0 AS summed FROM pool
               UNION ALL SELECT item_id, lot, serial, to_owner, to_owner_id, 0, ${column} FROM movement
                          WHERE to_location IS NOT NULL
               UNION ALL SELECT item_id, lot, serial, from_owner, from_owner_id, 0, -${column} FROM movement
                          WHERE from_location IS NOT NULL)
         JOIN item i ON i.id = item_id
        GROUP BY item_id, lot, serial, owner, owner_id HAVING SUM(kept) <> SUM(summed)`,
    );
  await compare(
    "reservation",
    quantity,
    `SELECT b.number || ' line ' || l.line AS place, l.open AS kept, 0 AS summed
       FROM build_line l JOIN build b ON b.id = l.build_id JOIN item i ON i.id = l.item_id
      WHERE l.open > 0 AND (b.stage NOT IN ('queued', 'on the bench') OR i.kind = 'service' OR i.not_stock_tracked = 1)`,
  );
  await compare(
    "reservation",
    quantity,
    `SELECT o.number || ' ' || i.code AS place, t.open AS kept, 0 AS summed
       FROM order_component t JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id JOIN item i ON i.id = t.item_id
      WHERE t.open > 0 AND o.stage <> 'open'`,
  );
  await compare(
    "bench",
    quantity,
    `SELECT b.number || ' ' || i.code AS place, SUM(kept) AS kept, SUM(summed) AS summed
       FROM (SELECT build_id, item_id, bench AS kept, 0 AS summed FROM build_line
             UNION ALL SELECT owner_id, item_id, 0, quantity FROM balance WHERE owner = 'build')
       JOIN build b ON b.id = build_id JOIN item i ON i.id = item_id
      GROUP BY build_id, item_id HAVING SUM(kept) <> SUM(summed)`,
  );
  await compare(
    "values of a posting",
    money,
    `SELECT o.kind || ' ' || o.document || ' (posting ' || o.id || ')' AS place, i.value AS kept, 0 AS summed
       FROM posting_imbalance i JOIN posting o ON o.id = i.posting_id`,
  );
  await compare(
    "serial",
    quantity,
    `SELECT i.code || ' ' || serial AS place, SUM(quantity) AS kept, 1000000 AS summed
       FROM balance JOIN item i ON i.id = item_id WHERE serial <> '' GROUP BY item_id, serial HAVING SUM(quantity) > 1000000`,
  );
  await auditFinishes(compare, quantity, money);
  await auditPurchases(compare, quantity);
  return found;
}

/** Finishes against what they moved: the good units and what they are worth, and each part that was used. */
async function auditFinishes(
  compare: Compare,
  quantity: (whole: number) => string,
  money: (whole: number) => string,
): Promise<void> {
  const place = "b.number || ' of ' || o.day AS place";
  const built = (column: string) =>
    `(SELECT SUM(m.${column}) FROM movement m WHERE m.posting_id = f.posting_id AND m.purpose = 'built')`;
  for (const [column, kept, show] of [
    ["quantity", "f.good", quantity],
    ["value", "f.total", money],
  ] as const)
    await compare(
      "finish",
      show,
      `SELECT ${place}, ${kept} AS kept, ${built(column)} AS summed
         FROM finish f JOIN build b ON b.id = f.build_id JOIN posting o ON o.id = f.posting_id WHERE kept <> summed`,
    );
  await compare(
    "finish",
    quantity,
    `SELECT b.number || ' ' || i.code AS place, SUM(kept) AS kept, SUM(summed) AS summed
       FROM (SELECT f.id AS finish, f.build_id, l.item_id, x.used AS kept, 0 AS summed
               FROM finish f JOIN finish_line x ON x.finish_id = f.id
               JOIN build_line l ON l.build_id = f.build_id AND l.line = x.line
             UNION ALL SELECT f.id, f.build_id, m.item_id, 0, m.quantity
               FROM finish f JOIN movement m ON m.posting_id = f.posting_id AND m.purpose = 'used')
       JOIN build b ON b.id = build_id JOIN item i ON i.id = item_id
      GROUP BY finish, item_id HAVING SUM(summed) > 0 AND SUM(kept) <> SUM(summed)`,
  );
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
               FROM receipt_line x JOIN purchase_line l ON l.id = x.line_id WHERE x.location_id IS NOT NULL
             UNION ALL SELECT r.id, m.item_id, 0, m.quantity FROM receipt r JOIN movement m ON m.posting_id = r.posting_id)
       JOIN receipt r ON r.id = receipt JOIN item i ON i.id = item_id
      GROUP BY receipt, item_id HAVING SUM(kept) <> SUM(summed)`,
  );
}
