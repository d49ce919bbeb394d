import { type ItemBrief, Refusal } from "@yosegi/contract";
import { type Pack, quantityFromScaled } from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";

/** Packs as `item_head` has them. */
export const packsFrom = (json: string): Pack[] =>
  (JSON.parse(json) as { name: string; quantity: number }[]).map(({ name, quantity }) => ({
    name,
    quantity: quantityFromScaled(quantity),
  }));

/** The same as answers tell them. */
export const packTexts = (json: string): ItemBrief["packs"] =>
  packsFrom(json).map(({ name, quantity }) => ({ name, quantity: quantity.toFixed() }));

/** Columns of what is told of an item, for `i` of `item_head`. */
export const BRIEF =
  "i.id, i.code, i.name, i.kind, i.tracking, i.unit, i.decimals, i.state, i.not_stock_tracked, i.thumbnail, i.packs";

/** What is told of an item wherever it is named, by id. */
export async function briefs(ctx: Reading, ids: Iterable<number>): Promise<(item: number) => ItemBrief> {
  const rows = await ctx.sql.all<BriefRow>(
    `SELECT ${BRIEF} FROM json_each($ids) ids JOIN item_head i ON i.id = ids.value`,
    { ids: asJson(new Set(ids)) },
  );
  const byId = new Map(rows.map((row) => [row.id, briefFrom(row)]));
  return (item) => {
    const found = byId.get(item);
    if (!found) throw new Refusal("not-found", { what: "item", id: item });
    return found;
  };
}

export interface BriefRow extends Omit<ItemBrief, "notStockTracked" | "packs"> {
  not_stock_tracked: number;
  packs: string;
}

/** Named one by one: copying a row of the driver with a rest takes longer than reading it. */
export function briefFrom(row: BriefRow): ItemBrief {
  return {
    id: row.id,
    code: row.code,
    name: row.name,
    kind: row.kind,
    tracking: row.tracking,
    unit: row.unit,
    decimals: row.decimals,
    state: row.state,
    notStockTracked: row.not_stock_tracked === 1,
    packs: packTexts(row.packs),
    thumbnail: row.thumbnail,
  };
}
