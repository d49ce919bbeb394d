import { moneyFromWhole, quantityFromWhole } from "@yosegi/core";
import type { Reading } from "../db/index.ts";

/** One figure that does not agree with the sum of movements. */
export interface AuditDifference {
  what: "balance" | "pool quantity" | "pool value" | "reservation";
  where: string;
  books: string;
  ledger: string;
}

interface Row {
  place: string;
  kept: number;
  summed: number;
}

/** Compares what is kept in step (balances, pools, reservations) with what it must be the sum of. Empty: all agrees. */
export async function audit(ctx: Reading): Promise<AuditDifference[]> {
  const found: AuditDifference[] = [];
  const compare = async (what: AuditDifference["what"], show: (whole: number) => string, sql: string) => {
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
       FROM (SELECT item_id, lot, serial, place_id, bin, quantity AS kept, 0 AS summed FROM balance
             UNION ALL SELECT item_id, lot, serial, to_place, to_bin, 0, quantity FROM movement WHERE to_place IS NOT NULL
             UNION ALL SELECT item_id, lot, serial, from_place, from_bin, 0, -quantity FROM movement
                        WHERE from_place IS NOT NULL)
       JOIN item i ON i.id = item_id JOIN place p ON p.id = place_id
      GROUP BY item_id, lot, serial, place_id, bin HAVING SUM(kept) <> SUM(summed)`,
  );
  // A movement from outside adds to its pool, one to outside takes from it; a move between places does neither.
  for (const [what, column, show] of [
    ["pool quantity", "quantity", quantity],
    ["pool value", "value", money],
  ] as const)
    await compare(
      what,
      show,
      `SELECT i.code || ' ' || lot || ' ' || serial AS place, SUM(kept) AS kept, SUM(summed) AS summed
         FROM (SELECT item_id, lot, serial, ${column} AS kept, 0 AS summed FROM pool
               UNION ALL SELECT item_id, lot, serial, 0,
                                ${column} * ((to_place IS NOT NULL) - (from_place IS NOT NULL)) FROM movement)
         JOIN item i ON i.id = item_id
        GROUP BY item_id, lot, serial HAVING SUM(kept) <> SUM(summed)`,
    );
  await compare(
    "reservation",
    quantity,
    `SELECT b.number || ' line ' || l.line AS place, l.open AS kept, 0 AS summed
       FROM build_line l JOIN build b ON b.id = l.build_id JOIN item i ON i.id = l.item_id
      WHERE l.open > 0 AND (b.stage <> 'queued' OR i.kind = 'service' OR i.not_counted = 1)`,
  );
  return found;
}
