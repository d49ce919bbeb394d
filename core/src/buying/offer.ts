import { addDays, type Day, type Decimal, divideUp, max, roundMoney, ZERO } from "../amounts/index.ts";

/** What a supplier asks for an item; quantities in the item's stock unit. */
export interface Offer {
  /** Id of the supplier. */
  firm: number;
  /** For one stock unit, four decimals; null where none was told. */
  price: Decimal | null;
  /** Calendar days from an order to its arrival; null where nobody said. */
  leadDays: number | null;
  minimum: Decimal | null;
  multiple: Decimal | null;
}

/**
 * What to order where so much is short: raised to the supplier's minimum, then up to the next multiple; nothing where
 * nothing is short (docs/rules.md § 4). Short 14, minimum 10, multiple 6: order 18.
 */
export function toOrder(short: Decimal, { minimum, multiple }: Pick<Offer, "minimum" | "multiple">): Decimal {
  if (short.lte(0)) return ZERO;
  const least = minimum === null ? short : max(short, minimum);
  return multiple === null || multiple.lte(0) ? least : divideUp(least, multiple, 0).times(multiple);
}

/**
 * What a purchase line comes to: a quantity at a price for one of it, in the currency's own decimals
 * (docs/rules.md § 1). 3 at 0.3350 are 1.01.
 */
export const lineTotal = (quantity: Decimal, price: Decimal): Decimal => roundMoney(quantity.times(price), 2);

/** The day on which something arrives that is ordered today; null where the lead time is not known. */
export const arrivesBy = (today: Day, { leadDays }: Pick<Offer, "leadDays">): Day | null =>
  leadDays === null ? null : addDays(today, leadDays);

/** The last day to order what must be there on a day; null where the lead time is not known. */
export const orderBy = (needed: Day, { leadDays }: Pick<Offer, "leadDays">): Day | null =>
  leadDays === null ? null : addDays(needed, -leadDays);
