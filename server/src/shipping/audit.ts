import { type Compare, shownMoney, shownQuantity } from "../ledger/index.ts";

/** What shipments that stand took of each line against what the order says left, and their cost against what the ledger took out. */
export async function auditShipments(compare: Compare): Promise<void> {
  await compare(
    "shipped",
    shownQuantity,
    `SELECT d.number || ' line ' || d.position || ' ' || i.code AS label, d.shipped AS kept, COALESCE(x.quantity, 0) AS summed
       FROM order_left d JOIN item_head i ON i.id = d.item_id
       LEFT JOIN (SELECT c.line_id, c.item_id, SUM(c.quantity) AS quantity
                    FROM shipment_component c JOIN shipment s ON s.id = c.shipment_id
                   WHERE s.undone_at IS NULL AND c.stocked = 1 GROUP BY 1, 2) x ON x.line_id = d.line_id AND x.item_id = d.item_id
      WHERE d.shipped <> COALESCE(x.quantity, 0)`,
  );
  await compare(
    "shipment",
    shownMoney,
    `SELECT s.number || ' ' || i.code AS label, SUM(c.cost) AS kept, SUM(m.value) AS summed
       FROM shipment s JOIN (SELECT shipment_id, item_id, SUM(cost) AS cost FROM shipment_component WHERE stocked = 1 GROUP BY 1, 2) c ON c.shipment_id = s.id
       JOIN item_head i ON i.id = c.item_id
       LEFT JOIN (SELECT posting_id, item_id, SUM(value) AS value FROM stock_movement WHERE purpose = 'shipped' GROUP BY 1, 2) m
         ON m.posting_id = s.posting_id AND m.item_id = c.item_id
      GROUP BY s.id, c.item_id HAVING SUM(c.cost) <> COALESCE(SUM(m.value), 0)`,
  );
}
