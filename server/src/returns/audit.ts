import { type Compare, shownQuantity } from "../ledger/index.ts";

/** What lines of returns say is still to be inspected against what lies in their bins. */
export async function auditReturns(compare: Compare): Promise<void> {
  await compare(
    "returns",
    shownQuantity,
    `WITH said AS (
       SELECT r.number, l.item_id, l.lot, l.serial, SUM(l.quantity - l.inspected) AS quantity
         FROM customer_return r JOIN return_line l ON l.return_id = r.id WHERE r.undone_at IS NULL GROUP BY 1, 2, 3, 4),
     lies AS (
       SELECT b.bin AS number, b.item_id, b.lot, b.serial, SUM(b.quantity) AS quantity
         FROM stock_balance b JOIN location_head p ON p.id = b.location_id AND p.kind = 'returns' GROUP BY 1, 2, 3, 4)
     SELECT k.number || ' ' || i.code AS label, COALESCE(s.quantity, 0) AS kept, COALESCE(x.quantity, 0) AS summed
       FROM (SELECT number, item_id, lot, serial FROM said UNION SELECT number, item_id, lot, serial FROM lies) k
       JOIN item_head i ON i.id = k.item_id
       LEFT JOIN said s USING (number, item_id, lot, serial) LEFT JOIN lies x USING (number, item_id, lot, serial)
      WHERE COALESCE(s.quantity, 0) <> COALESCE(x.quantity, 0)`,
  );
}
