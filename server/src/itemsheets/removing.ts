import { Refusal } from "@yosegi/contract";
import type { ItemTableRow, Reading, Writing } from "../db/index.ts";
import { itemById, USES, useWords } from "../items/index.ts";
import { inForce } from "../lists/index.ts";

/** An archived item is offered nowhere, so nothing that is still to happen may need it. */
export async function refuseArchive(ctx: Reading, item: ItemTableRow): Promise<void> {
  const row = await ctx.sql.one<{
    stock: number;
    build: number;
    coming: number;
    sold: number;
    list: string | null;
    kit: string | null;
  }>(
    `SELECT EXISTS (SELECT 1 FROM balance WHERE item_id = $id AND quantity > 0) AS stock,
            EXISTS (SELECT 1 FROM build_line WHERE item_id = $id AND open > 0)
              OR EXISTS (SELECT 1 FROM build WHERE product_id = $id AND stage IN ('draft', 'queued', 'on the bench')) AS build,
            EXISTS (SELECT 1 FROM purchase_line WHERE item_id = $id AND open > 0) AS coming,
            EXISTS (SELECT 1 FROM order_component WHERE item_id = $id AND open > 0)
              OR EXISTS (SELECT 1 FROM sales_line l JOIN sales_order o ON o.id = l.order_id WHERE l.item_id = $id AND o.stage = 'open') AS sold,
            (SELECT group_concat(p.code, ', ') FROM (SELECT DISTINCT p.code FROM revision_line l
               JOIN revision v ON v.id = l.revision_id JOIN parts_list s ON s.id = v.list_id JOIN item p ON p.id = s.product_id
              WHERE l.item_id = $id AND v.id = ${inForce("s.id")} AND p.state <> 'archived' LIMIT 5) p) AS list,
            (SELECT group_concat(k.code, ', ') FROM (SELECT DISTINCT k.code FROM kit_content c JOIN item k ON k.id = c.kit_id
              WHERE c.item_id = $id AND k.state <> 'archived' LIMIT 5) k) AS kit`,
    { id: item.id, today: ctx.today },
  );
  const { code } = item;
  const refuse = (what: string) => Refusal.at("state", "archive-used", { code, what });
  if (row?.stock) throw refuse("there is stock of it");
  if (row?.build) throw refuse("open builds need it");
  if (row?.coming) throw refuse("it is on its way from a supplier");
  if (row?.sold) throw refuse("open orders ask for it");
  if (row?.list) throw refuse(`it is on the parts list of ${row.list}; replace it there first`);
  if (row?.kit) throw refuse(`it is in ${row.kit}; take it out there first`);
}

/** Removes an item that nothing was ever done with. */
export async function removeItem(ctx: Writing, id: number): Promise<void> {
  const item = await itemById(ctx, id);
  const uses = await usesOf(ctx, id);
  if (uses !== null && !(await onlyOwn(ctx, id)))
    throw new Refusal("item-used", { code: item.code, what: uses });
  await ctx.sql.run("DELETE FROM custom_value WHERE owner = 'item' AND owner_id = $id", { id });
  await ctx.sql.run("DELETE FROM parts_list WHERE product_id = $id", { id });
  await ctx.sql.run("DELETE FROM item WHERE id = $id", { id });
}

export async function usesOf(ctx: Reading, id: number): Promise<string | null> {
  const row = await ctx.sql.one<Parameters<typeof useWords>[0]>(
    `SELECT ${USES} FROM item i WHERE i.id = $id`,
    { id },
  );
  return row && useWords(row);
}

/** Whether all that names an item is its own list or contents, which go with it. */
async function onlyOwn(ctx: Reading, id: number): Promise<boolean> {
  const row = await ctx.sql.one<{ named: number }>(
    `SELECT EXISTS (SELECT 1 FROM movement WHERE item_id = $id) OR EXISTS (SELECT 1 FROM build WHERE product_id = $id)
         OR EXISTS (SELECT 1 FROM build_line WHERE item_id = $id)
         OR EXISTS (SELECT 1 FROM purchase_line WHERE item_id = $id) OR EXISTS (SELECT 1 FROM purchase_need WHERE product_id = $id)
         OR EXISTS (SELECT 1 FROM sales_line WHERE item_id = $id) OR EXISTS (SELECT 1 FROM order_component WHERE item_id = $id)
         OR EXISTS (SELECT 1 FROM revision_line WHERE item_id = $id)
         OR EXISTS (SELECT 1 FROM line_substitute WHERE item_id = $id) OR EXISTS (SELECT 1 FROM kit_content WHERE item_id = $id)
         OR EXISTS (SELECT 1 FROM kit_swap WHERE item_id = $id) OR EXISTS (SELECT 1 FROM revision WHERE starts_after = $id)
         OR EXISTS (SELECT 1 FROM replacement WHERE part_id = $id OR successor_id = $id) AS named`,
    { id },
  );
  return row?.named === 0;
}
