import { type Day, type Decimal, type Unit, valueAt, ZERO } from "../amounts/index.ts";
import { type Cover, mostThatFits, type Reach } from "../cover/index.ts";

/** No build is larger, so what fits even then has no limit. */
const ALL = 1e8;

/** The largest quantity that fits, where more never fits better; "no limit" where even the largest build does. */
export function mostThat(unit: Pick<Unit, "decimals">, fits: (n: Decimal) => boolean): Reach {
  let bound = ZERO.plus(1);
  while (fits(bound)) {
    if (bound.gte(ALL)) return "no limit";
    bound = bound.times(10);
  }
  return mostThatFits(bound, unit, fits);
}

/** Whether everything can be finished by a day. */
export const finishedBy = (answer: Cover, day: Day): boolean =>
  answer.finish !== null && answer.finish <= day;

/**
 * What the missing parts cost, in the quantities their suppliers sell, as the lines of their orders will add up; null
 * where a part has no price or nobody supplies it.
 */
export function spending(answer: Cover, decimals: number): Decimal | null {
  let total = ZERO;
  for (const { offer, quantity } of answer.orders) {
    if (offer === null || offer.price === null) return null;
    total = total.plus(valueAt(quantity, offer.price, decimals));
  }
  return total;
}

/** Whether all missing parts can be bought for a sum. */
export function affordable(answer: Cover, sum: Decimal, decimals: number): boolean {
  const cost = spending(answer, decimals);
  return cost?.lte(sum) ?? false;
}
