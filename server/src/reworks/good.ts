import { type Day, decimal, sharePriceByCost } from "@yosegi/core";
import { homes } from "../builds/index.ts";
import type { Writing } from "../db/index.ts";
import { finishRework } from "./finish.ts";
import { reworkSheet } from "./sheet.ts";

/** Finishes a rework with all its units good, as what they were: to where they are usually kept, or back to their customer. */
export async function finishGood(ctx: Writing, id: number, day: Day): Promise<void> {
  const one = await reworkSheet(ctx, id);
  const prices = sharePriceByCost(
    one.price === null ? null : decimal(one.price),
    one.units.map(({ value }) => decimal(value)),
    ctx.currencyDecimals,
  );
  const place = one.isTheirs ? { store: "", bin: "" } : (await homes(ctx, [one.item.id]))(one.item.id);
  await finishRework(ctx, id, {
    day,
    units: one.units.map(({ unit }, i) => ({
      unit,
      outcome: "good",
      item: null,
      ...place,
      reason: "",
      price: one.isTheirs ? null : (prices[i] ?? null),
      parts: [],
    })),
  });
}
