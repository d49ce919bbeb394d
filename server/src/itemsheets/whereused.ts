import type { Use } from "@yosegi/contract";
import { quantityFromWhole } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { inForce } from "../lists/index.ts";

/** Every list, kit and open document with an item: lists in force, and revisions that may come into force. */
export async function whereUsed(ctx: Reading, item: number): Promise<Use[]> {
  const rows = await ctx.sql.all<Omit<Use, "quantity"> & { quantity: number }>(
    `WITH told (revision, line, quantity, unit, instead) AS (
       SELECT revision_id, line, quantity, unit, NULL FROM revision_line WHERE item_id = $item
        UNION ALL SELECT s.revision_id, s.line, s.quantity, i.unit, o.code FROM line_substitute s JOIN item i ON i.id = s.item_id
         JOIN revision_line l ON l.revision_id = s.revision_id AND l.line = s.line JOIN item o ON o.id = l.item_id
        WHERE s.item_id = $item),
     found AS MATERIALIZED (
       SELECT t.*, r.number, r.state, r.starts, p.product_id AS product, CASE WHEN p.main THEN '' ELSE p.name || ', ' END AS list,
              ${inForce("p.id")} AS now
         FROM told t JOIN revision r ON r.id = t.revision JOIN parts_list p ON p.id = r.list_id WHERE r.state <> 'retired')
     SELECT CASE WHEN f.instead IS NULL THEN 'list' ELSE 'substitute' END AS what, f.product AS id, i.code, i.name,
            COALESCE('instead of ' || f.instead || ', ', '') || f.list || 'revision ' || f.number
              || CASE WHEN f.revision = f.now THEN '' WHEN f.state = 'draft' THEN ', a draft' ELSE ', not started yet' END AS detail,
            f.quantity, f.unit
       FROM found f JOIN item i ON i.id = f.product
      WHERE f.revision = f.now OR f.state = 'draft'
         OR f.starts <> 'at once' AND f.number > (SELECT number FROM revision WHERE id = f.now)
      UNION ALL
     SELECT 'kit', k.id, k.code, k.name, '', c.quantity, u.unit
       FROM kit_content c JOIN item k ON k.id = c.kit_id JOIN item u ON u.id = c.item_id WHERE c.item_id = $item
      UNION ALL
     SELECT 'swap', k.id, k.code, k.name, 'instead of ' || o.code, c.quantity, o.unit
       FROM kit_swap s JOIN kit_content c ON c.kit_id = s.kit_id AND c.line = s.line
       JOIN item k ON k.id = s.kit_id JOIN item o ON o.id = c.item_id WHERE s.item_id = $item
      UNION ALL
     SELECT 'build', b.id, b.number, i.name, b.stage, SUM(l.open), u.unit
       FROM build_line l JOIN build b ON b.id = l.build_id JOIN item i ON i.id = b.product_id JOIN item u ON u.id = l.item_id
      WHERE l.item_id = $item AND b.stage IN ('queued', 'on the bench') GROUP BY b.id HAVING SUM(l.open) > 0
      UNION ALL
     SELECT 'purchase', p.id, p.number, f.name, p.stage, SUM(CASE p.stage WHEN 'draft' THEN l.quantity ELSE l.open END), u.unit
       FROM purchase_line l JOIN purchase p ON p.id = l.purchase_id JOIN firm f ON f.id = p.supplier_id JOIN item u ON u.id = l.item_id
      WHERE l.item_id = $item AND (p.stage = 'draft' OR l.open > 0) GROUP BY p.id
      UNION ALL
     SELECT 'order', order_id, number, customer_name, stage, SUM(open), u.unit
       FROM order_demand d JOIN item u ON u.id = d.item_id WHERE d.item_id = $item AND d.open > 0 GROUP BY order_id
      ORDER BY 1, 3, 5`,
    { item, today: ctx.today },
  );
  return rows.map((row) => ({ ...row, quantity: quantityFromWhole(row.quantity).toFixed() }));
}
