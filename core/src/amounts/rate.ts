import { type Decimal, divideRounded, ONE } from "./decimal.ts";
import { MONEY_DECIMALS } from "./scaled.ts";

/**
 * Money for so many of an item's stock unit: 0.85 for 1000 g, or a pool's value for all that is in it. It is kept as two
 * figures, so that nothing is rounded before the end of a formula (docs/rules.md § 1).
 */
export interface Rate {
  amount: Decimal;
  /** In the stock unit, above zero. */
  per: Decimal;
}

export const rateOf = (amount: Decimal, per: Decimal = ONE): Rate => ({ amount, per });

/** What a quantity comes to at a rate: multiplied first, divided and rounded once at the end. */
export function valueAt(quantity: Decimal, { amount, per }: Rate, decimals = MONEY_DECIMALS): Decimal {
  return divideRounded(quantity.times(amount), per, decimals);
}

/** What one stock unit comes to, four decimals: only to be shown, never to be calculated with. */
export const eachAt = (rate: Rate): Decimal => valueAt(ONE, rate);
