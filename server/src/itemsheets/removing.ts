import { Refusal } from "@yosegi/contract";
import { removeCustomValues } from "../customfields/index.ts";
import type { Reading, Writing } from "../db/index.ts";
import type { ItemTableRow } from "../items/index.ts";
import { ITEM, itemById, USES, useWords } from "../items/index.ts";
import { inForce, removeLists } from "../lists/index.ts";

const openUse = (use: string) =>
  `EXISTS (SELECT 1 FROM item_use WHERE item_id = $id AND use = '${use}' AND open)`;

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
    `SELECT ${openUse("stock")} AS stock, ${openUse("build")} AS build, ${openUse("purchase")} AS coming, ${openUse("order")} AS sold,
            (SELECT group_concat(code, ', ') FROM (SELECT DISTINCT p.code FROM list_part l
               JOIN revision_head v ON v.id = l.revision_id JOIN item p ON p.id = v.product_id
              WHERE l.item_id = $id AND l.instead_of IS NULL AND v.id = ${inForce("v.list_id")} AND p.state <> 'archived' LIMIT 5)) AS list,
            (SELECT group_concat(code, ', ') FROM (SELECT DISTINCT k.code FROM kit_part c JOIN item k ON k.id = c.kit_id
              WHERE c.item_id = $id AND c.instead_of IS NULL AND k.state <> 'archived' LIMIT 5)) AS kit`,
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
  await removeCustomValues(ctx, "item", id);
  await removeLists(ctx, id);
  await ctx.model(ITEM).destroy({ where: { id } });
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
    "SELECT EXISTS (SELECT 1 FROM item_use WHERE item_id = $id AND use NOT IN ('stock', 'list', 'kit')) AS named",
    { id },
  );
  return row?.named === 0;
}
