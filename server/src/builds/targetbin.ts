import type { Writing } from "../db/index.ts";
import { BUILD } from "./tables.ts";

/** Open builds that will be put away in a bin are put away in another from now on. */
export async function moveTargetBin(ctx: Writing, location: number, bin: string, to: string): Promise<void> {
  const stage = ["draft", "queued", "on the bench"] as const;
  await ctx.model(BUILD).update({ bin: to }, { where: { location_id: location, bin, stage: [...stage] } });
}
