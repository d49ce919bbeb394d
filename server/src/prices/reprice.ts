import { type BodyOf, Refusal, type routes } from "@yosegi/contract";
import { decimal, moneyToWhole, quantityToWhole } from "@yosegi/core";
import { asJson, type Writing } from "../db/index.ts";
import { briefs, checkCurrency } from "../items/index.ts";
import { loadKits } from "../kits/index.ts";

/** Gives several items new prices at once, and remembers the margin wished for. */
export async function reprice(ctx: Writing, body: BodyOf<typeof routes.reprice>): Promise<number> {
  const ids = body.prices.map(({ item }) => item);
  const brief = await briefs(ctx, ids);
  const kits = await loadKits(ctx, ids);
  for (const [i, { item, price }] of body.prices.entries()) {
    const { code } = brief(item);
    checkCurrency(ctx, `prices.${i}.price`, decimal(price));
    if (kits.get(item)?.priceRule === "sum") throw Refusal.at(`prices.${i}.price`, "price-follows", { code });
  }
  // What is told here is told for one of each.
  await ctx.sql.run(
    `UPDATE item SET price = r.value ->> 'price', price_per = 1000000, price_unit = ''
       FROM json_each($rows) r WHERE item.id = r.value ->> 'item'`,
    { rows: asJson(body.prices.map(({ item, price }) => ({ item, price: moneyToWhole(decimal(price)) }))) },
  );
  await ctx.sql.run("UPDATE company SET margin_wish = $wish", { wish: quantityToWhole(decimal(body.wish)) });
  return body.prices.length;
}
