import BigJs from "big.js";

/** The product's own constructor, so that nobody else's settings of the library reach our figures. */
export const Big = BigJs();
Big.DP = 30;
Big.NE = -30;
Big.PE = 30;

/** An exact decimal. Never made from a binary floating point number that has a fraction. */
export type Decimal = BigJs;

export const ZERO = new Big(0);
export const ONE = new Big(1);

const DOWN = 0;
const HALF_AWAY_FROM_ZERO = 1;

/** Reads a decimal from text such as "12", "-0.5" or "249.900"; throws on anything else, for input is checked at the door. */
export function decimal(text: string | number): Decimal {
  return new Big(text);
}

/** The number of decimals that are really used: 2.50 has one. */
export function decimalsOf(value: Decimal): number {
  return Math.max(0, value.c.length - value.e - 1);
}

/** Rounds half away from zero, the rule for money (docs/rules.md § 1). */
export function roundMoney(value: Decimal, decimals: number): Decimal {
  return value.round(decimals, HALF_AWAY_FROM_ZERO);
}

/**
 * numerator ÷ denominator, cut to `decimals` towards zero, exact for any quotient of decimals.
 * The library divides to a fixed number of digits, so a quotient a hair below a whole step may come out as the
 * step itself; multiplying back tells, without error.
 */
export function divideDown(numerator: Decimal, denominator: Decimal, decimals: number): Decimal {
  if (denominator.lte(0) || numerator.lt(0))
    throw new RangeError("divideDown takes a quotient that is not negative");
  const cut = numerator.div(denominator).round(decimals, DOWN);
  return cut.times(denominator).gt(numerator) ? cut.minus(step(decimals)) : cut;
}

/** numerator ÷ denominator, raised to the next step of `decimals` unless it is exact. */
export function divideUp(numerator: Decimal, denominator: Decimal, decimals: number): Decimal {
  const cut = divideDown(numerator, denominator, decimals);
  return cut.times(denominator).eq(numerator) ? cut : cut.plus(step(decimals));
}

/** numerator ÷ denominator where it has no more than `decimals` decimals; null where it would have to be rounded. */
export function divideExact(numerator: Decimal, denominator: Decimal, decimals: number): Decimal | null {
  const quotient = numerator.div(denominator).round(decimals, HALF_AWAY_FROM_ZERO);
  return quotient.times(denominator).eq(numerator) ? quotient : null;
}

/** The smallest amount above zero with so many decimals: 0.001 for 3. */
export function step(decimals: number): Decimal {
  return new Big(`1e-${decimals}`);
}

export function sum(values: Iterable<Decimal>): Decimal {
  let total = ZERO;
  for (const value of values) total = total.plus(value);
  return total;
}

/** The sum of amounts that are all known; null where one is not. */
export function sumIfKnown(values: readonly (Decimal | null)[]): Decimal | null {
  const known = values.filter((value) => value !== null);
  return known.length === values.length ? sum(known) : null;
}

export function max(a: Decimal, b: Decimal): Decimal {
  return a.gte(b) ? a : b;
}

export function min(a: Decimal, b: Decimal): Decimal {
  return a.lte(b) ? a : b;
}
