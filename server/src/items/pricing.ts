import { type ItemBrief, Refusal } from "@yosegi/contract";
import {
  type Decimal,
  decimal,
  decimalsOf,
  eachAt,
  moneyToScaled,
  pricedQuantity,
  type Rate,
  rateOf,
  type Units,
} from "@yosegi/core";
import { asJson, type Reading, rateFromScaled, type Writing } from "../db/index.ts";
import { ITEM } from "./tables.ts";

/** A rate as an answer tells it. */
export const rateText = (rate: Rate | null): { amount: string; per: string } | null =>
  rate && { amount: rate.amount.toFixed(), per: rate.per.toFixed() };

/** A sales price for one, in the currency's own decimals. */
export const priceText = (ctx: Reading, price: Rate | null): string | null =>
  price?.amount.toFixed(ctx.currencyDecimals) ?? null;

/** A unit cost as an answer tells it: rounded to be shown, and unrounded to be calculated with. */
export const costTexts = (cost: Rate | null) => ({
  unitCost: cost && eachAt(cost).toFixed(4),
  currentCost: rateText(cost),
});

/** Own prices of items. */
export async function prices(ctx: Reading, items: Iterable<number>): Promise<(item: number) => Rate | null> {
  const rows = await ctx.sql.all<{ id: number; price: number; per: number }>(
    `SELECT i.id, i.price, i.price_per AS per FROM json_each($ids) ids JOIN item i ON i.id = ids.value
      WHERE i.price IS NOT NULL`,
    { ids: asJson(new Set(items)) },
  );
  const byId = new Map(rows.map((row) => [row.id, rateFromScaled(row.price, row.per)]));
  return (item) => byId.get(item) ?? null;
}

/** A sales price has no more decimals than the company's currency; it is never rounded behind someone's back. */
export function checkCurrency(ctx: Reading, field: string, price: Decimal): void {
  if (decimalsOf(price) > ctx.currencyDecimals)
    throw Refusal.at(field, "currency-decimals", {
      allowed: ctx.currencyDecimals,
      currency: ctx.company?.currency ?? "",
    });
}

/** A price as it was said, for its unit or pack; refused at `field` where the item has none of that name. */
export function pricedRate(
  field: string,
  amount: Decimal,
  per: string,
  { code, unit, packs }: Pick<ItemBrief, "code" | "unit" | "packs">,
  units: Units,
): Rate {
  const known = packs.map((pack) => ({ name: pack.name, quantity: decimal(pack.quantity) }));
  const quantity = pricedQuantity(per, units.get(unit), units.values(), known);
  if (quantity === null) throw Refusal.at(field, "price-unit", { code, per });
  return rateOf(amount, quantity);
}

/** Gives items new sales prices, each for one of it; null takes the price away. */
export async function setPrices(
  ctx: Writing,
  prices: readonly { item: number; price: Decimal | null }[],
): Promise<void> {
  await ctx.sql.run(
    `UPDATE item SET price = r.value ->> 'price', price_per = ${ONE_UNIT}, price_unit = ''
       FROM json_each($rows) r WHERE item.id = r.value ->> 'item'`,
    { rows: asJson(prices.map(({ item, price }) => ({ item, price: price && moneyToScaled(price) }))) },
  );
}

/** Gives one item another amount for what its price is for already. */
export async function setPrice(ctx: Writing, id: number, price: Decimal | null): Promise<void> {
  await ctx.model(ITEM).update({ price: price && moneyToScaled(price) }, { where: { id } });
}

/** One of a unit, as quantities are stored: in millionths. */
const ONE_UNIT = 1_000_000;
