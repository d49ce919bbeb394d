import { type Decimal, ONE, type Rate, rateOf, split, valueAt, ZERO } from "../amounts/index.ts";
import { type ContentMoney, sharePrice, shareWeights } from "../kits/index.ts";
import { lineTotal, wholeSets } from "../orders/index.ts";

/** What is in one of a line: the item itself, or a content of its set. An item stands in it once. */
export interface SoldComponent extends ContentMoney {
  item: number;
  /** Whether it is taken from stock; what is not leaves with whole sets or units. */
  stocked: boolean;
}

/** A line of an order as it is sold. */
export interface SoldLine {
  quantity: Decimal;
  price: Rate;
  /** Percent. */
  discount: Decimal;
  /** Decimals of the unit that the line is sold in. */
  decimals: number;
  components: readonly SoldComponent[];
}

/** What left of a line. */
export interface LeftOfLine {
  /** Of a component that is taken from stock. */
  of: (item: number) => Decimal;
  /** Units, of a line that takes nothing from stock. */
  units: Decimal;
}

/** Whole sets or units that left. */
export function wholeLeft(
  { quantity, decimals, components }: Omit<SoldLine, "price" | "discount">,
  left: LeftOfLine,
): Decimal {
  const stocked = components.filter((component) => component.stocked);
  if (stocked.length === 0) return left.units;
  return wholeSets(
    quantity,
    stocked.map(({ item, quantity: per }) => ({ per, has: left.of(item) })),
    decimals,
  );
}

/** How much of each component left, in the order of the components: what is not stocked with the whole sets. */
export function componentsLeft(line: Omit<SoldLine, "price" | "discount">, left: LeftOfLine): Decimal[] {
  const whole = wholeLeft(line, left);
  return line.components.map(({ item, stocked, quantity: per }) =>
    stocked ? left.of(item) : whole.times(per),
  );
}

/**
 * What the part of a line that left comes to: whole sets or units at the line's total for so many, single pieces of a set at their share
 * of the price of one (docs/rules.md § 12). What a shipment brings is this less what was counted before, so that the last takes the rest.
 */
export function revenueSoFar(line: SoldLine, left: LeftOfLine, currencyDecimals: number): Decimal {
  const { price, discount, components } = line;
  const whole = wholeLeft(line, left);
  const total = lineTotal(whole, price, discount, currencyDecimals);
  const pieces = components.map(({ item, stocked, quantity: per }) =>
    stocked ? left.of(item).minus(whole.times(per)) : ZERO,
  );
  if (pieces.every((quantity) => quantity.lte(0))) return total;
  const shares = sharePrice(lineTotal(ONE, price, discount, currencyDecimals), components, currencyDecimals);
  return components.reduce((so, { quantity: per }, i) => {
    const quantity = pieces[i] ?? ZERO;
    return quantity.gt(0) ? so.plus(valueAt(quantity, rateOf(shares[i] ?? ZERO, per), currencyDecimals)) : so;
  }, total);
}

/**
 * Shares what a shipment brings of a line among its components, by the price shares of what left of each now; adding up to the whole.
 * A line whose price was lowered after a part of it left may bring less than nothing.
 */
export function shareRevenue(
  revenue: Decimal,
  components: readonly SoldComponent[],
  leaving: readonly Decimal[],
  currencyDecimals: number,
): Decimal[] {
  if (components.length === 1) return [revenue];
  const weights = shareWeights(components).map((weight, i) => {
    const per = components[i]?.quantity ?? ONE;
    return weight.times(leaving[i] ?? ZERO).div(per);
  });
  // What has no weight of its own shares equally among what leaves.
  const known = weights.some((weight) => weight.gt(0))
    ? weights
    : leaving.map((quantity) => (quantity.gt(0) ? ONE : ZERO));
  if (revenue.gte(0)) return split(revenue, known, currencyDecimals);
  return split(revenue.neg(), known, currencyDecimals).map((share) => share.neg());
}
