import {
  type ContentRules,
  type KitContent,
  type KitTerms,
  type PriceRule,
  quantityFromScaled,
  type Swap,
} from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";

/** A kit as it is kept; the items that may take a content's place by id. */
export interface StoredKit extends KitTerms {
  /** How often it was changed; 0 for one that was never written. */
  version: number;
  contents: (KitContent & ContentRules & { swaps: number[] })[];
}

/** The kits among the items named, by item. */
export async function loadKits(ctx: Reading, items: Iterable<number>): Promise<Map<number, StoredKit>> {
  const wanted = new Set(items);
  if (wanted.size === 0) return new Map();
  const ids = asJson(wanted);
  const heads = await ctx.sql.all<{
    id: number;
    version: number;
    shown: number;
    added: number;
    price_rule: PriceRule;
    discount: number;
  }>(
    `SELECT k.item_id AS id, k.version, k.contents_shown AS shown, k.may_be_added_to AS added, k.price_rule, k.discount
       FROM json_each($ids) ids JOIN kit k ON k.item_id = ids.value`,
    { ids },
  );
  if (heads.length === 0) return new Map();
  const contents = await loadContents(ctx, ids);
  const kits = new Map<number, StoredKit>(
    heads.map((head) => [
      head.id,
      {
        version: head.version,
        contentsShown: head.shown === 1,
        mayBeAddedTo: head.added === 1,
        priceRule: head.price_rule,
        discount: quantityFromScaled(head.discount),
        contents: [],
      },
    ]),
  );
  for (const [kit, content] of contents) kits.get(kit)?.contents.push(content);
  return kits;
}

/** The contents of kits in their order, each with its kit. */
async function loadContents(
  ctx: Reading,
  ids: string,
): Promise<[kit: number, StoredKit["contents"][number]][]> {
  const rows = await ctx.sql.all<{
    kit: number;
    line: number;
    item: number;
    quantity: number;
    not_stock_tracked: number;
    swap: Swap;
    changes: number;
    left_out: number;
  }>(
    `SELECT c.kit_id AS kit, c.line, c.item_id AS item, c.quantity, i.not_stock_tracked, c.swap,
            c.quantity_may_change AS changes, c.may_be_left_out AS left_out
       FROM json_each($ids) ids JOIN kit_content c ON c.kit_id = ids.value JOIN item_head i ON i.id = c.item_id
      ORDER BY c.kit_id, c.line`,
    { ids },
  );
  const swaps = await ctx.sql.all<{ kit: number; line: number; item: number }>(
    `SELECT s.kit_id AS kit, s.line, s.item_id AS item FROM json_each($ids) ids JOIN kit_swap s ON s.kit_id = ids.value
      ORDER BY s.kit_id, s.line, s.position`,
    { ids },
  );
  return rows.map((row) => [
    row.kit,
    {
      item: row.item,
      quantity: quantityFromScaled(row.quantity),
      stocked: row.not_stock_tracked === 0,
      swap: row.swap,
      swaps: swaps.filter((s) => s.kit === row.kit && s.line === row.line).map((s) => s.item),
      quantityMayChange: row.changes === 1,
      mayBeLeftOut: row.left_out === 1,
    },
  ]);
}
