import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import type { Writing } from "../db/index.ts";
import { briefs, checkCurrency, setPrices } from "../items/index.ts";
import { loadKits } from "../kits/index.ts";
import { setMarginWish } from "../people/index.ts";

/** Gives several items new prices at once, and remembers the margin wished for. */
export async function reprice(ctx: Writing, body: ParsedBody<typeof routes.reprice>): Promise<number> {
  const ids = body.prices.map(({ item }) => item);
  const brief = await briefs(ctx, ids);
  const kits = await loadKits(ctx, ids);
  for (const [i, { item, price }] of body.prices.entries()) {
    const { code } = brief(item);
    checkCurrency(ctx, `prices.${i}.price`, price);
    if (kits.get(item)?.priceRule === "sum") throw Refusal.at(`prices.${i}.price`, "price-follows", { code });
  }
  await setPrices(
    ctx,
    body.prices.map(({ item, price }) => ({ item, price: price })),
  );
  await setMarginWish(ctx, body.wish);
  return body.prices.length;
}
