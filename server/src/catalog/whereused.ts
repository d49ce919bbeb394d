import type { Use } from "@yosegi/contract";
import { quantityFromWhole } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { itemById } from "./items.ts";
import { inForce } from "./lists.ts";

/** Every list, kit and open build with an item: lists in force and drafts of what may come into force. */
export async function whereUsed(ctx: Reading, item: number): Promise<Use[]> {
  await itemById(ctx, item);
  const rows = await ctx.sql.all<Omit<Use, "quantity"> & { quantity: number }>(
    `SELECT 'list' AS what, p.product_id AS id, i.code, i.name, ${LIST_WORDS} AS detail, l.quantity, l.unit
       FROM revision_line l JOIN revision r ON r.id = l.revision_id JOIN parts_list p ON p.id = r.list_id
       JOIN item i ON i.id = p.product_id WHERE l.item_id = $item AND ${USABLE}
      UNION ALL
     SELECT 'substitute', p.product_id, i.code, i.name, 'instead of ' || o.code || ', ' || ${LIST_WORDS}, s.quantity, u.unit
       FROM line_substitute s JOIN revision_line l ON l.revision_id = s.revision_id AND l.line = s.line
       JOIN item o ON o.id = l.item_id JOIN item u ON u.id = s.item_id
       JOIN revision r ON r.id = l.revision_id JOIN parts_list p ON p.id = r.list_id JOIN item i ON i.id = p.product_id
      WHERE s.item_id = $item AND ${USABLE}
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
      WHERE l.item_id = $item AND b.stage = 'queued' GROUP BY b.id HAVING SUM(l.open) > 0
      ORDER BY 1, 3, 5`,
    { item, today: ctx.today },
  );
  return rows.map((row) => ({ ...row, quantity: quantityFromWhole(row.quantity).toFixed() }));
}

/** A revision that is used now, or may be later. */
const USABLE = `r.state <> 'retired' AND (r.state = 'draft' OR r.id = ${inForce("p.id")} OR r.starts <> 'at once'
  AND r.number > (SELECT number FROM revision WHERE id = ${inForce("p.id")}))`;

const LIST_WORDS = `CASE WHEN p.main THEN '' ELSE p.name || ', ' END || 'revision ' || r.number
  || CASE WHEN r.id = ${inForce("p.id")} THEN '' WHEN r.state = 'draft' THEN ', a draft' ELSE ', not started yet' END`;
