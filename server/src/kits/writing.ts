import { codeKey, type KitDraft, quantityToScaled } from "@yosegi/core";
import type { Writing } from "../db/index.ts";
import type { NamedFacts } from "../lists/index.ts";
import { KIT, KIT_CONTENT, KIT_SWAP } from "./tables.ts";

/** Writes checked kits, each once, in the place of what they were. */
export async function writeKits(
  ctx: Writing,
  drafts: readonly KitDraft[],
  items: NamedFacts["items"],
): Promise<void> {
  const idOf = (code: string) => {
    const item = items.get(codeKey(code));
    if (!item) throw new Error(`${code} was checked and is not there`);
    return item.id;
  };
  const kits = drafts.map((draft) => ({ id: idOf(draft.kit), draft }));
  await ctx.sql.upsert(
    KIT,
    ["item_id"],
    kits.map(({ id, draft }) => ({
      item_id: id,
      contents_shown: draft.contentsShown ? 1 : 0,
      may_be_added_to: draft.mayBeAddedTo ? 1 : 0,
      price_rule: draft.priceRule,
      discount: quantityToScaled(draft.discount),
    })),
  );
  await ctx.model(KIT_CONTENT).destroy({ where: { kit_id: kits.map(({ id }) => id) } });
  const contents = kits.flatMap(({ id, draft }) =>
    draft.contents.map((content, i) => ({ kit_id: id, line: i + 1, content })),
  );
  await ctx.sql.insert(
    KIT_CONTENT,
    contents.map(({ content, ...line }) => ({
      ...line,
      item_id: idOf(content.item),
      quantity: quantityToScaled(content.quantity),
      swap: content.swap,
      quantity_may_change: content.quantityMayChange ? 1 : 0,
      may_be_left_out: content.mayBeLeftOut ? 1 : 0,
    })),
  );
  await ctx.sql.insert(
    KIT_SWAP,
    contents.flatMap(({ content, ...line }) =>
      content.swaps.map((swap, position) => ({ ...line, position, item_id: idOf(swap) })),
    ),
  );
}

/** The contents of one kit for another. */
export async function copyKit(ctx: Writing, from: number, to: number): Promise<void> {
  const [kit, contents, swaps] = [
    "contents_shown, may_be_added_to, price_rule, discount",
    "line, item_id, quantity, swap, quantity_may_change, may_be_left_out",
    "line, position, item_id",
  ];
  await ctx.sql.run(`INSERT INTO kit (item_id, ${kit}) SELECT $to, ${kit} FROM kit WHERE item_id = $from`, {
    from,
    to,
  });
  await ctx.sql.run(`INSERT INTO kit_content SELECT $to, ${contents} FROM kit_content WHERE kit_id = $from`, {
    from,
    to,
  });
  await ctx.sql.run(`INSERT INTO kit_swap SELECT $to, ${swaps} FROM kit_swap WHERE kit_id = $from`, {
    from,
    to,
  });
}

/** A content as a replacement keeps it; the quantity in millionths of its stock unit. */
export interface KeptContent {
  item: number;
  quantity: number;
  swaps: number[];
}

/** What kits contain, in the place of what they did: their lines stay, with other items, quantities and swaps. */
export async function writeContents(
  ctx: Writing,
  kits: readonly { kit: number; contents: readonly KeptContent[] }[],
): Promise<void> {
  const lines = kits.flatMap(({ kit, contents }) =>
    contents.map((content, i) => ({ ...content, kit, line: i + 1 })),
  );
  await ctx.sql.update(
    KIT_CONTENT,
    ["kit_id", "line"],
    lines.map(({ kit, line, item, quantity }) => ({ kit_id: kit, line, item_id: item, quantity })),
  );
  await ctx.model(KIT_SWAP).destroy({ where: { kit_id: kits.map(({ kit }) => kit) } });
  await ctx.sql.insert(
    KIT_SWAP,
    lines.flatMap(({ kit, line, swaps }) =>
      swaps.map((swap, position) => ({ kit_id: kit, line, position, item_id: swap })),
    ),
  );
}

/** Removes the contents of a kit, and what it says of them. */
export async function removeKit(ctx: Writing, item: number): Promise<void> {
  await ctx.model(KIT).destroy({ where: { item_id: item } });
}
