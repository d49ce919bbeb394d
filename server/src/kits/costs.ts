import { costOfContents, type Rate, rateOf } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { type CostRow, costRows, costsFrom } from "../lists/index.ts";
import type { StoredKit } from "./kits.ts";

/** Current unit costs of items and kits, a kit's being its contents', where what they depend on is read already. */
export async function costsWithKits(
  ctx: Reading,
  read: readonly CostRow[],
  kits: ReadonlyMap<number, StoredKit>,
): Promise<(item: number) => Rate | null> {
  const known = new Set(read.map((row) => row.item));
  const contents = [...kits.values()].flatMap((kit) => kit.contents.map((content) => content.item));
  const unread = await costRows(ctx, new Set(contents.filter((item) => !known.has(item))));
  const unitCost = await costsFrom(ctx, [...read, ...unread]);
  return (item) => {
    const kit = kits.get(item);
    if (!kit) return unitCost(item);
    const cost = costOfContents(
      kit.contents.map((content) => ({ ...content, price: null, cost: unitCost(content.item) })),
    );
    return cost && rateOf(cost);
  };
}
