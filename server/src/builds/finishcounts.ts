import { Refusal } from "@yosegi/contract";
import type { Counted, Rate, StockState } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { countsOf } from "../stock/index.ts";
import type { FinishFigures } from "./finishchecks.ts";
import type { StoredLine } from "./rows.ts";

/** What was counted along with a finish, of the parts of its build. */
export async function finishCounts(
  ctx: Reading,
  { counts }: FinishFigures,
  lines: readonly StoredLine[],
  unitCost: (item: number) => Rate | null,
  stock: StockState,
): Promise<Counted[]> {
  const at = (count: number, field: string) => `counts.${count}.${field}`;
  for (const [i, { item }] of counts.entries()) {
    if (lines.some((line) => line.item === item && line.stocked)) continue;
    const { code } = (await briefs(ctx, [item]))(item);
    throw Refusal.at(at(i, "item"), "count-not-part", { code });
  }
  return countsOf(ctx, counts, { at, unitCost, stock });
}
