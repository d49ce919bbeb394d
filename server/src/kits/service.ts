import type { Kit, KitInput } from "@yosegi/contract";
import { checkKit, type KitDraft } from "@yosegi/core";
import type { Writing } from "../db/index.ts";
import { checkCurrency, itemById, setPrice } from "../items/index.ts";
import { factsFor } from "../lists/index.ts";
import { refuseProblems } from "../problems.ts";
import { kitAnswer } from "./answer.ts";
import { writeKits } from "./writing.ts";

/** Writes a kit typed in a form. */
export async function saveKit(ctx: Writing, id: number, body: KitInput): Promise<Kit> {
  const item = await itemById(ctx, id);
  const draft: KitDraft = {
    ...body,
    kit: item.code,
    contents: body.contents.map((content, row) => ({ ...content, row })),
  };
  const facts = await factsFor(ctx, [item.code, ...body.contents.flatMap((c) => [c.item, ...c.swaps])]);
  refuseProblems(checkKit(draft, -1, facts), (p) => (p.row < 0 ? p.field : `contents.${p.row}.${p.field}`));
  if (body.price !== null) checkCurrency(ctx, "price", body.price);
  await setPrice(ctx, id, body.price);
  await writeKits(ctx, [draft], facts.items);
  return kitAnswer(ctx, await itemById(ctx, id));
}
