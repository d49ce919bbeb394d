import type { AnswerOf, ParsedBody, routes } from "@yosegi/contract";
import { moveTargetBin } from "../builds/index.ts";
import type { Writing } from "../db/index.ts";
import { moveHomes } from "../items/index.ts";
import { moveBin } from "../ledger/index.ts";

/**
 * Gives a bin another name: what is in it is moved there, and items and open builds that name it follow. The ledger keeps the old
 * name for what happened before.
 */
export async function renameBin(
  ctx: Writing,
  id: number,
  names: ParsedBody<typeof routes.renameBin>,
): Promise<AnswerOf<typeof routes.renameBin>> {
  const document = await moveBin(ctx, id, names);
  await moveHomes(ctx, id, names.bin, names.to);
  await moveTargetBin(ctx, id, names.bin, names.to);
  return { document };
}
