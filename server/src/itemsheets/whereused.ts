import type { Use } from "@yosegi/contract";
import { quantityFromScaled } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { inForce } from "../lists/index.ts";

/** Every list, kit and open document with an item: lists in force, and revisions that may come into force. */
export async function whereUsed(ctx: Reading, item: number): Promise<Use[]> {
  const rows = await ctx.sql.all<Omit<Use, "quantity"> & { quantity: number }>(
    `WITH found AS MATERIALIZED (
       SELECT t.quantity, t.unit, t.instead_of, r.id AS revision, r.number, r.state, r.starts, r.product_id AS product,
              CASE WHEN r.main THEN '' ELSE r.list || ', ' END AS list, ${inForce("r.list_id")} AS now
         FROM list_part t JOIN revision_head r ON r.id = t.revision_id WHERE t.item_id = $item AND r.state <> 'retired')
     SELECT CASE WHEN f.instead_of IS NULL THEN 'list' ELSE 'substitute' END AS what, f.product AS id, i.code, i.name,
            COALESCE('instead of ' || o.code || ', ', '') || f.list || 'revision ' || f.number
              || CASE WHEN f.revision = f.now THEN '' WHEN f.state = 'draft' THEN ', a draft' ELSE ', not started yet' END AS detail,
            f.quantity, f.unit
       FROM found f JOIN item i ON i.id = f.product LEFT JOIN item o ON o.id = f.instead_of
      WHERE f.revision = f.now OR f.state = 'draft'
         OR f.starts <> 'at once' AND f.number > (SELECT number FROM revision_head WHERE id = f.now)
      UNION ALL
     SELECT CASE WHEN c.instead_of IS NULL THEN 'kit' ELSE 'swap' END, k.id, k.code, k.name,
            COALESCE('instead of ' || o.code, ''), c.quantity, u.unit
       FROM kit_part c JOIN item k ON k.id = c.kit_id LEFT JOIN item o ON o.id = c.instead_of
       JOIN item u ON u.id = COALESCE(c.instead_of, c.item_id) WHERE c.item_id = $item
      UNION ALL
     SELECT 'build', b.id, b.number, i.name, b.stage, SUM(l.open), u.unit
       FROM build_part l JOIN build_head b ON b.id = l.build_id JOIN item i ON i.id = b.product_id JOIN item u ON u.id = l.item_id
      WHERE l.item_id = $item AND b.stage IN ('queued', 'on the bench') GROUP BY b.id HAVING SUM(l.open) > 0
      UNION ALL
     SELECT 'purchase', p.id, p.number, f.name, p.stage, SUM(l.quantity), u.unit
       FROM purchase_demand l JOIN purchase_head p ON p.id = l.purchase_id JOIN firm_head f ON f.id = p.supplier_id JOIN item u ON u.id = l.item_id
      WHERE l.item_id = $item GROUP BY p.id
      UNION ALL
     SELECT 'order', order_id, number, customer_name, stage, SUM(to_take), u.unit
       FROM order_demand d JOIN item u ON u.id = d.item_id WHERE d.item_id = $item AND d.to_take > 0 GROUP BY order_id
      ORDER BY 1, 3, 5`,
    { item, today: ctx.today },
  );
  return rows.map((row) => ({ ...row, quantity: quantityFromScaled(row.quantity).toFixed() }));
}
