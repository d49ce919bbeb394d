import { addDays, type Day, type Decimal, divideUp, max, type Rate, sum, ZERO } from "../amounts/index.ts";

/** What a supplier asks for an item; quantities in the item's stock unit. */
export interface Offer {
  /** Id of the supplier. */
  firm: number;
  /** As the supplier says it; null where none is known. */
  price: Rate | null;
  /** Calendar days from an order to its arrival; null where nobody said. */
  leadDays: number | null;
  minimum: Decimal | null;
  multiple: Decimal | null;
}

/** What stands on a draft, and is not on its way yet: it counts against a suggestion to order or build the same again. */
export interface OnDraft {
  document: string;
  /** Id of the supplier of a purchase order; null for a build. */
  firm: number | null;
  quantity: Decimal;
}

/**
 * What to order where so much is short (docs/rules.md § 4). What stands on drafts elsewhere goes off before the rest is
 * raised to the supplier's minimum and up to the next multiple; what stands on that supplier's own draft goes off after,
 * for more of it joins that line. Short 14, minimum 10, multiple 6: order 18; with 10 on its draft, 8 more.
 */
export function quantityToOrder(
  short: Decimal,
  offer: Pick<Offer, "firm" | "minimum" | "multiple"> | null,
  drafts: readonly OnDraft[] = [],
): Decimal {
  const onDraft = (own: boolean) =>
    sum(drafts.filter(({ firm }) => (offer !== null && firm === offer.firm) === own).map((d) => d.quantity));
  return max(ZERO, raised(short.minus(onDraft(false)), offer).minus(onDraft(true)));
}

/** Raised to a supplier's minimum, then up to the next multiple; nothing where nothing is short. */
function raised(short: Decimal, offer: Pick<Offer, "minimum" | "multiple"> | null): Decimal {
  if (short.lte(0)) return ZERO;
  const { minimum = null, multiple = null } = offer ?? {};
  const least = minimum === null ? short : max(short, minimum);
  return multiple === null || multiple.lte(0) ? least : divideUp(least, multiple, 0).times(multiple);
}

/** What to build where so much is short: less what stands on drafts. */
export const quantityToBuild = (short: Decimal, drafts: readonly OnDraft[]): Decimal =>
  max(ZERO, short.minus(sum(drafts.map((d) => d.quantity))));

/** The day on which something arrives that is ordered today; null where the lead time is not known. */
export const arrivesBy = (today: Day, { leadDays }: Pick<Offer, "leadDays">): Day | null =>
  leadDays === null ? null : addDays(today, leadDays);

/** The last day to order what must be there on a day; null where the lead time is not known. */
export const orderBy = (needed: Day, { leadDays }: Pick<Offer, "leadDays">): Day | null =>
  leadDays === null ? null : addDays(needed, -leadDays);
