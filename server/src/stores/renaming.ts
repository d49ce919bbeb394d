import type { AnswerOf, ParsedBody, routes } from "@yosegi/contract";
import { moveTargetBin } from "../builds/index.ts";
import { refuseCounting } from "../counts/index.ts";
import type { Writing } from "../db/index.ts";
import { moveHomes } from "../items/index.ts";
import { binNamed, moveBin, storeById } from "../ledger/index.ts";

/**
 * Gives a bin another name: what is in it is moved there, and items and open builds that name it follow. The ledger keeps the old
 * name for what happened before.
 */
export async function renameBin(
  ctx: Writing,
  id: number,
  names: ParsedBody<typeof routes.renameBin>,
): Promise<AnswerOf<typeof routes.renameBin>> {
  const store = await storeById(ctx, id);
  const bin = binNamed(store, names.bin, "bin");
  await refuseCounting(ctx, id, bin);
  const document = await moveBin(ctx, store, bin, names.to);
  await moveHomes(ctx, id, bin, names.to);
  await moveTargetBin(ctx, id, bin, names.to);
  return { document };
}
