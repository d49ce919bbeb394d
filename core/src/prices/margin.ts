import { type Decimal, divideRounded, divideUp, HUNDRED } from "../amounts/index.ts";

export interface Margin {
  money: Decimal;
  /** Percent of the price, one decimal; null where the price is zero. */
  percent: Decimal | null;
}

/** What a sale at `price` leaves over `cost`. */
export function margin(price: Decimal, cost: Decimal): Margin {
  const money = price.minus(cost);
  return { money, percent: price.gt(0) ? divideRounded(money.times(HUNDRED), price, 1) : null };
}

/**
 * The price in the currency's own decimals at which so many percent of it are left over the cost: at least those, never a
 * step less.
 */
export function priceForMargin(cost: Decimal, percent: Decimal, decimals: number): Decimal | null {
  const rest = HUNDRED.minus(percent);
  return rest.lte(0) || cost.lt(0) ? null : divideUp(cost.times(100), rest, decimals);
}

/** Whether a margin is below what is wished for, in percent of the price; a price of zero leaves nothing. */
export function isBelow(has: Margin, wish: Decimal): boolean {
  return has.percent === null || has.percent.lt(wish);
}
