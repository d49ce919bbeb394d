import { type OwnPartInput, Refusal } from "@yosegi/contract";
import { quantityFromScaled } from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { type ItemTableRow, itemById } from "../items/index.ts";
import { refuseTooMuch } from "../ledger/index.ts";
import { draftOf, listsFor, startOf } from "./content.ts";
import { type PartsBefore, partsOfList, writeOwnParts } from "./ownparts.ts";
import { buildById, refuseStage } from "./rows.ts";
import { draftColumns, forgetContent, queueBuild, refuseBegun, unqueueBuild } from "./steps.ts";
import type { BuildTableRow } from "./tables.ts";
import { BUILD } from "./tables.ts";

/**
 * Gives a build parts of its own before any is handed out: quantities, substitutes, parts added or dropped. Its parts list
 * stays as it is; what the build reserves follows at once where it is queued.
 */
export async function changeParts(ctx: Writing, id: number, parts: readonly OwnPartInput[]): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "parts");
  await refuseBegun(ctx, build);
  const product = await itemById(ctx, build.product_id);
  const before = await partsBefore(ctx, build, product);
  await writeOwnParts(ctx, build, product, before, parts);
  await refuseTooMuch(ctx, [product.id, ...parts.map((part) => part.item)]);
}

/** What a build takes now: by its list as long as it is a draft, by its own copy of it from then on. */
async function partsBefore(ctx: Reading, build: BuildTableRow, product: ItemTableRow): Promise<PartsBefore> {
  const draft = draftOf(build);
  const choice = build.stage === "draft" ? draft : { ...draft, own: build.id };
  const [list] = await listsFor(ctx, [{ product, choice, day: startOf(product, build.due, ctx.today) }]);
  return partsOfList(list ?? null, quantityFromScaled(build.quantity));
}

/** Lets a build take its parts by the product's list again. */
export async function followList(ctx: Writing, id: number): Promise<void> {
  const build = await buildById(ctx, id);
  refuseStage(build, "parts");
  if (build.own_parts === 0) throw new Refusal("parts-not-own", { number: build.number });
  await refuseBegun(ctx, build);
  const product = await itemById(ctx, build.product_id);
  const isQueued = build.stage === "queued";
  if (isQueued) await unqueueBuild(ctx, id);
  await forgetContent(ctx, id);
  const asked = { quantity: quantityFromScaled(build.wanted), due: build.due };
  const choice = { ...draftOf(build), own: null };
  await ctx.model(BUILD).update(await draftColumns(ctx, product, asked, choice), { where: { id } });
  if (isQueued) await queueBuild(ctx, id);
}
