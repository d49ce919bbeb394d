import { type Compare, shownQuantity } from "../ledger/index.ts";

/** Purchase orders against their receipts, and receipts against what they moved. */
export async function auditPurchases(compare: Compare): Promise<void> {
  const line = "p.number || ' line ' || l.position AS label";
  await compare(
    "received",
    shownQuantity,
    `SELECT ${line}, l.received AS kept,
            (SELECT COALESCE(SUM(x.quantity), 0) FROM receipt_line x JOIN receipt r ON r.id = x.receipt_id
              WHERE x.line_id = l.id AND r.undone_at IS NULL) AS summed
       FROM purchase_line l JOIN purchase p ON p.id = l.purchase_id WHERE kept <> summed`,
  );
  await compare(
    "still to come",
    shownQuantity,
    `SELECT ${line}, l.open AS kept,
            CASE WHEN l.closed = 1 OR p.stage NOT IN ('sent', 'part received') THEN 0 ELSE MAX(0, l.quantity - l.received) END AS summed
       FROM purchase_line l JOIN purchase p ON p.id = l.purchase_id WHERE kept <> summed`,
  );
  await compare(
    "receipt",
    shownQuantity,
    `SELECT r.number || ' ' || i.code AS label, SUM(kept) AS kept, SUM(summed) AS summed
       FROM (SELECT x.receipt_id AS receipt, l.item_id, x.quantity AS kept, 0 AS summed
               FROM receipt_line x JOIN purchase_line l ON l.id = x.line_id WHERE x.location_id IS NOT NULL
             UNION ALL SELECT r.id, m.item_id, 0, m.quantity FROM receipt r JOIN stock_movement m ON m.posting_id = r.posting_id)
       JOIN receipt r ON r.id = receipt JOIN item_head i ON i.id = item_id
      GROUP BY receipt, item_id HAVING SUM(kept) <> SUM(summed)`,
  );
}
