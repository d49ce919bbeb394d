import { Refusal } from "@yosegi/contract";
import { isStocked } from "@yosegi/core";
import { asJson, type Reading, type Writing } from "../db/index.ts";
import type { ItemTableRow } from "./tables.ts";
import { ITEM } from "./tables.ts";

export async function itemById(ctx: Reading, id: number): Promise<ItemTableRow> {
  return (await itemsById(ctx, [id]))(id);
}

/** Items by their ids; asking for one that is not among them is refused. */
export async function itemsById(ctx: Reading, ids: Iterable<number>): Promise<(id: number) => ItemTableRow> {
  const rows = await ctx.sql.all<ItemTableRow>(
    "SELECT * FROM item WHERE id IN (SELECT value FROM json_each($ids))",
    { ids: asJson(new Set(ids)) },
  );
  const byId = new Map(rows.map((row) => [row.id, row]));
  return (id) => {
    const row = byId.get(id);
    if (!row) throw new Refusal("not-found", { what: "item", id });
    return row;
  };
}

/** A product whose list or builds are asked for. */
export async function productById(ctx: Reading, id: number): Promise<ItemTableRow> {
  const product = await itemById(ctx, id);
  if (product.kind !== "built")
    throw Refusal.at("product", "not-built", { code: product.code, kind: product.kind });
  return product;
}

/** Whether an item is kept on the books. */
export const stockedRow = (item: Pick<ItemTableRow, "kind" | "not_stock_tracked">): boolean =>
  isStocked({ kind: item.kind, notStockTracked: item.not_stock_tracked === 1 });

/** The picture of an item, as the id of its file. */
export async function pictureOf(ctx: Reading, item: number): Promise<number | null> {
  return (await itemById(ctx, item)).picture_id;
}

export async function setPicture(ctx: Writing, item: number, file: number): Promise<void> {
  await ctx.model(ITEM).update({ picture_id: file }, { where: { id: item } });
}

/** Takes a picture away from every item that shows it. */
export async function clearPicture(ctx: Writing, file: number): Promise<void> {
  await ctx.model(ITEM).update({ picture_id: null }, { where: { picture_id: file } });
}
