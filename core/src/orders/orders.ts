import { type Decimal, divideDown, min, ONE, type Rate, rateOf, valueAt } from "../amounts/index.ts";

/** Where a customer's order stands. */
export const ORDER_STAGES = ["open", "cancelled"] as const;
export type OrderStage = (typeof ORDER_STAGES)[number];

/** What a line comes to: quantity × price × (100 − discount) ÷ 100, rounded once to so many decimals (docs/rules.md § 12). */
export function lineTotal(quantity: Decimal, price: Rate, discount: Decimal, decimals: number): Decimal {
  const hundred = ONE.times(100);
  const reduced = rateOf(price.amount, price.per.times(hundred));
  return valueAt(quantity.times(hundred.minus(discount)), reduced, decimals);
}

/** Whole sets or units that could leave, of so many; what takes nothing from stock, as work does, is ready as it is. */
export function setsReady(
  quantity: Decimal,
  components: readonly { per: Decimal; ready: Decimal }[],
  decimals: number,
): Decimal {
  const reaches = components.map(({ per, ready }) => divideDown(ready, per, decimals));
  return reaches.reduce((least, reach) => min(least, reach), quantity);
}
