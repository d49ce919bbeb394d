import {
  type Decimal,
  divideRounded,
  HUNDRED,
  ONE,
  type Rate,
  split,
  sum,
  valueAt,
  ZERO,
} from "../amounts/index.ts";

/** Whether a content stays as it is, may be swapped for one of the items named, or for any. */
export const SWAPS = ["fixed", "listed", "any"] as const;

export type Swap = (typeof SWAPS)[number];

/** Where a kit's price comes from: its own, or the sum of its contents less `discount` percent. */
export const PRICE_RULES = ["own", "sum"] as const;

export type PriceRule = (typeof PRICE_RULES)[number];

/** How a kit is sold and shown. */
export interface KitTerms {
  contentsShown: boolean;
  mayBeAddedTo: boolean;
  priceRule: PriceRule;
  /** Percent. */
  discount: Decimal;
}

/** What an order may change of a content. */
export interface ContentRules {
  swap: Swap;
  quantityMayChange: boolean;
  mayBeLeftOut: boolean;
}

/** One content of a kit: so many of an item, in its stock unit, for one set. */
export interface KitContent {
  item: number;
  quantity: Decimal;
  stocked: boolean;
}

/** What is known of a content's money: list price and current unit cost of one. */
export interface ContentMoney {
  quantity: Decimal;
  price: Rate | null;
  cost: Rate | null;
}

/** What so much of a content comes to at a rate. */
export const weight = (quantity: Decimal, rate: Rate | null): Decimal =>
  rate === null ? ZERO : quantity.times(rate.amount).div(rate.per);

/** The sum of the contents' prices less a percentage, in the currency's decimals; null where one of them has no price. */
export function priceOfContents(
  contents: readonly ContentMoney[],
  lessPercent: Decimal,
  decimals: number,
): Decimal | null {
  if (contents.length === 0 || contents.some(({ price }) => price === null)) return null;
  const list = sum(contents.map(({ price, quantity }) => weight(quantity, price)));
  return divideRounded(list.times(HUNDRED.minus(lessPercent)), HUNDRED, decimals);
}

/** What the contents of one set cost now, four decimals; null where the cost of one is not known. */
export function costOfContents(contents: readonly ContentMoney[]): Decimal | null {
  if (contents.length === 0 || contents.some(({ cost }) => cost === null)) return null;
  return sum(contents.map(({ cost, quantity }) => (cost === null ? ZERO : valueAt(quantity, cost))));
}

/**
 * Shares what is paid for a set among its contents: by list price × quantity; without any list price by current cost ×
 * quantity; else equally. In the currency's decimals, adding up to the whole (docs/rules.md § 7).
 */
export const sharePrice = (price: Decimal, contents: readonly ContentMoney[], decimals: number): Decimal[] =>
  split(price, shareWeights(contents), decimals);

/** By what a set's price is shared among its contents; never all zero. */
export function shareWeights(contents: readonly ContentMoney[]): Decimal[] {
  const by = (of: (content: ContentMoney) => Rate | null) =>
    contents.map((content) => weight(content.quantity, of(content)));
  const priced = contents.some((content) => content.price !== null);
  const weights = priced ? by((c) => c.price) : by((c) => c.cost);
  return weights.some((one) => one.gt(0)) ? weights : contents.map(() => ONE);
}
