import { codeKey, type KitDraft, quantityToWhole } from "@yosegi/core";
import { asJson, type Writing } from "../db/index.ts";
import type { NamedFacts } from "../lists/index.ts";

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
  await ctx.sql.run(
    `INSERT INTO kit (item_id, contents_shown, may_be_added_to, price_rule, discount)
     SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4 FROM json_each($rows) WHERE true
         ON CONFLICT (item_id) DO UPDATE SET contents_shown = excluded.contents_shown,
            may_be_added_to = excluded.may_be_added_to, price_rule = excluded.price_rule, discount = excluded.discount`,
    {
      rows: asJson(
        kits.map(({ id, draft }) => [
          id,
          draft.contentsShown ? 1 : 0,
          draft.mayBeAddedTo ? 1 : 0,
          draft.priceRule,
          quantityToWhole(draft.discount),
        ]),
      ),
    },
  );
  await ctx.sql.run("DELETE FROM kit_content WHERE kit_id IN (SELECT value FROM json_each($ids))", {
    ids: asJson(kits.map(({ id }) => id)),
  });
  const contents = kits.flatMap(({ id, draft }) =>
    draft.contents.map((content, i) => ({ kit: id, line: i + 1, content })),
  );
  await ctx.sql.run(
    `INSERT INTO kit_content (kit_id, line, item_id, quantity, swap, quantity_may_change, may_be_left_out)
     SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5, value ->> 6 FROM json_each($rows)`,
    {
      rows: asJson(
        contents.map(({ kit, line, content }) => [
          kit,
          line,
          idOf(content.item),
          quantityToWhole(content.quantity),
          content.swap,
          content.quantityMayChange ? 1 : 0,
          content.mayBeLeftOut ? 1 : 0,
        ]),
      ),
    },
  );
  await ctx.sql.run(
    `INSERT INTO kit_swap (kit_id, line, position, item_id)
     SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3 FROM json_each($rows)`,
    {
      rows: asJson(
        contents.flatMap(({ kit, line, content }) =>
          content.swaps.map((swap, position) => [kit, line, position, idOf(swap)]),
        ),
      ),
    },
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

/** A content as a replacement keeps it. */
export type StoredContent = [item: number, quantity: number, swaps: number[]];

/** What kits contain, in the place of what they did: their lines stay, with other items, quantities and swaps. */
export async function writeContents(
  ctx: Writing,
  kits: readonly { kit: number; contents: readonly StoredContent[] }[],
): Promise<void> {
  const lines = kits.flatMap(({ kit, contents }) =>
    contents.map(([item, quantity, swaps], i) => ({ kit, line: i + 1, item, quantity, swaps })),
  );
  await ctx.sql.run(
    `UPDATE kit_content SET item_id = r.value ->> 'item', quantity = r.value ->> 'quantity'
       FROM json_each($lines) r WHERE kit_id = r.value ->> 'kit' AND line = r.value ->> 'line'`,
    { lines: asJson(lines) },
  );
  await ctx.sql.run("DELETE FROM kit_swap WHERE kit_id IN (SELECT value FROM json_each($kits))", {
    kits: asJson(kits.map(({ kit }) => kit)),
  });
  await ctx.sql.run(
    `INSERT INTO kit_swap (kit_id, line, position, item_id)
     SELECT l.value ->> 'kit', l.value ->> 'line', s.key, s.value
       FROM json_each($lines) l JOIN json_each(l.value, '$.swaps') s`,
    { lines: asJson(lines) },
  );
}
