import { moneyFromScaled, quantityFromScaled } from "@yosegi/core";
import type { Reading } from "../db/index.ts";

/** One figure that does not agree with the sum of movements. */
export interface AuditDifference {
  what:
    | "balance"
    | "packed"
    | "pool quantity"
    | "pool value"
    | "reservation"
    | "bench"
    | "received"
    | "open"
    | "shipped"
    | "returns"
    | "shipment"
    | "still to come"
    | "receipt"
    | "values of a posting"
    | "serial"
    | "finish";
  where: string;
  books: string;
  ledger: string;
}

/** Notes each row of a comparison, by its SQL: columns `label`, `kept` and `summed`, whole numbers shown by `show`. */
export type Compare = (
  what: AuditDifference["what"],
  show: (whole: number) => string,
  sql: string,
) => Promise<void>;

interface Row {
  label: string;
  kept: number;
  summed: number;
}

/** How whole numbers of the books are shown. */
export const shownQuantity = (whole: number): string => quantityFromScaled(whole).toFixed();
export const shownMoney = (whole: number): string => moneyFromScaled(whole).toFixed();

/** What the comparisons of several areas find; empty where all agrees. */
export async function compareAll(
  ctx: Reading,
  audits: readonly ((compare: Compare) => Promise<void>)[],
): Promise<AuditDifference[]> {
  const found: AuditDifference[] = [];
  const compare: Compare = async (what, show, sql) => {
    for (const row of await ctx.sql.all<Row>(sql))
      found.push({ what, where: row.label, books: show(row.kept), ledger: show(row.summed) });
  };
  for (const audit of audits) await audit(compare);
  return found;
}

/** Balances and pools against the sum of movements, postings against themselves, and each serial in one place only. */
export async function auditLedger(compare: Compare): Promise<void> {
  await compare(
    "balance",
    shownQuantity,
    `SELECT i.code || ' at ' || p.name || ' ' || bin || ' ' || lot || ' ' || serial AS label,
            SUM(kept) AS kept, SUM(summed) AS summed
       FROM (SELECT item_id, lot, serial, location_id, bin, owner, owner_id, quantity AS kept, 0 AS summed FROM balance
             UNION ALL SELECT item_id, lot, serial, to_location, to_bin, to_owner, to_owner_id, 0, quantity FROM movement
                        WHERE to_location IS NOT NULL
             UNION ALL SELECT item_id, lot, serial, from_location, from_bin, from_owner, from_owner_id, 0, -quantity FROM movement
                        WHERE from_location IS NOT NULL)
       JOIN item_head i ON i.id = item_id JOIN location p ON p.id = location_id
      GROUP BY item_id, lot, serial, location_id, bin, owner, owner_id HAVING SUM(kept) <> SUM(summed)`,
  );
  // A movement adds to the pool it comes into and takes from the one it leaves; within one pool it does neither.
  for (const [what, column, show] of [
    ["pool quantity", "quantity", shownQuantity],
    ["pool value", "value", shownMoney],
  ] as const)
    await compare(
      what,
      show,
      `SELECT i.code || ' ' || lot || ' ' || serial AS label, SUM(kept) AS kept, SUM(summed) AS summed
         FROM (SELECT item_id, lot, serial, owner, owner_id, ${column} AS kept, 0 AS summed FROM pool
               UNION ALL SELECT item_id, lot, serial, to_owner, to_owner_id, 0, ${column} FROM movement
                          WHERE to_location IS NOT NULL
               UNION ALL SELECT item_id, lot, serial, from_owner, from_owner_id, 0, -${column} FROM movement
                          WHERE from_location IS NOT NULL)
         JOIN item_head i ON i.id = item_id
        GROUP BY item_id, lot, serial, owner, owner_id HAVING SUM(kept) <> SUM(summed)`,
    );
  await compare(
    "values of a posting",
    shownMoney,
    `SELECT o.kind || ' ' || o.document || ' (posting ' || o.id || ')' AS label, i.value AS kept, 0 AS summed
       FROM posting_imbalance i JOIN posting o ON o.id = i.posting_id`,
  );
  await compare(
    "serial",
    shownQuantity,
    `SELECT i.code || ' ' || serial AS label, SUM(quantity) AS kept, 1000000 AS summed
       FROM balance JOIN item_head i ON i.id = item_id WHERE serial <> '' GROUP BY item_id, serial HAVING SUM(quantity) > 1000000`,
  );
}
