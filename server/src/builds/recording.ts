import { type AnswerOf, type ParsedBody, PLAIN_BUILD, PLAIN_FINISH, type routes } from "@yosegi/contract";
import { ZERO } from "@yosegi/core";
import { linkOrder } from "../allocations/index.ts";
import type { Reading, Writing } from "../db/index.ts";
import { productById } from "../items/index.ts";
import { finishBuild } from "./finish.ts";
import { suggestedNumbers } from "./numbers.ts";
import { homes } from "./sheetparts.ts";
import { newBuild, queueBuild } from "./steps.ts";

/** Records a build that is done already: planned, its parts taken as planned, and finished, all of it or nothing. Gives its id. */
export async function recordBuild(
  ctx: Writing,
  body: ParsedBody<typeof routes.recordBuild>,
): Promise<number> {
  const { product, quantity, list, note, costTag, line, store, bin, day, ...numbers } = body;
  const plan = { ...PLAIN_BUILD, product, quantity, list, note, costTag, store, bin, due: day };
  const id = await newBuild(ctx, plan);
  await queueBuild(ctx, id);
  if (line !== null) await linkOrder(ctx, id, { line, quantity: null });
  const finish = { ...PLAIN_FINISH, rejected: ZERO, good: quantity, day, store, bin, ...numbers };
  await finishBuild(ctx, id, finish);
  return id;
}

/** What a build of a product that is recorded in one go begins with. */
export async function nextNumbers(ctx: Reading, id: number): Promise<AnswerOf<typeof routes.nextNumbers>> {
  const product = await productById(ctx, id);
  const home = await homes(ctx, [id]);
  return { ...(await suggestedNumbers(ctx, product)), ...home(id) };
}
