import { priceOfContents, type Rate, rateOf } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import type { StoredKit } from "./kits.ts";

/** What a kit is sold at: its own price, or what follows from its contents. */
export function kitPrice(
  ctx: Reading,
  kit: StoredKit,
  own: Rate | null,
  priceOf: (item: number) => Rate | null,
): Rate | null {
  if (kit.priceRule === "own") return own;
  const price = priceOfContents(
    kit.contents.map(({ item, quantity }) => ({ quantity, price: priceOf(item), cost: null })),
    kit.discount,
    ctx.currencyDecimals,
  );
  return price && rateOf(price);
}
