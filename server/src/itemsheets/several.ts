import { type AnswerOf, Refusal, type routes } from "@yosegi/contract";
import type { ItemState } from "@yosegi/core";
import type { Writing } from "../db/index.ts";
import { ITEM, type ItemTableRow, itemById } from "../items/index.ts";
import { refuseArchive } from "./removing.ts";

/**
 * Does a step with each of several items, one after the other. What refuses one comes before anything of it is written, so that
 * it is named, and the others are done.
 */
export async function each(
  ctx: Writing,
  ids: readonly number[],
  step: (item: ItemTableRow) => Promise<void>,
): Promise<AnswerOf<typeof routes.removeItems>> {
  const answer: AnswerOf<typeof routes.removeItems> = { done: [], refused: [] };
  for (const id of ids) {
    const item = await itemById(ctx, id);
    try {
      await step(item);
      answer.done.push({ id, code: item.code, before: item.state });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      answer.refused.push({ id, code: item.code, why: error.message });
    }
  }
  return answer;
}

/** Archives an item that nothing still to happen needs, or brings it back. */
export async function setState(ctx: Writing, item: ItemTableRow, state: ItemState): Promise<void> {
  if (state === "archived" && item.state !== "archived") await refuseArchive(ctx, item);
  await ctx.model(ITEM).update({ state }, { where: { id: item.id } });
}
