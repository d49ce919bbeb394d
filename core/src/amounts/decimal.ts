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
export const HUNDRED = new Big(100);

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
 * numerator ÷ denominator as whole steps of `decimals` and what is left over, of the denominator's size; without signs. The library
 * divides to a fixed number of digits, slowly, and rounding that would round twice: whole numbers divide without error.
 */
function stepsOf(numerator: Decimal, denominator: Decimal, decimals: number) {
  if (denominator.eq(0)) throw new RangeError("Nothing is divided by zero");
  const shift = exponentOf(numerator) - exponentOf(denominator) + decimals;
  const over = digitsOf(numerator) * 10n ** BigInt(Math.max(0, shift));
  const by = digitsOf(denominator) * 10n ** BigInt(Math.max(0, -shift));
  return { steps: over / by, rest: over % by, by };
}

/** The power of ten of a decimal's last digit. */
const exponentOf = ({ c, e }: Decimal): number => e - c.length + 1;

const digitsOf = ({ c }: Decimal): bigint => BigInt(c.join(""));

function fromSteps(steps: bigint, decimals: number): Decimal {
  const value = new Big(steps.toString());
  if (steps !== 0n) value.e -= decimals;
  return value;
}

/** numerator ÷ denominator, cut to `decimals` towards zero, exact for any quotient of decimals. */
export function divideDown(numerator: Decimal, denominator: Decimal, decimals: number): Decimal {
  refuseNegative(numerator, denominator);
  return fromSteps(stepsOf(numerator, denominator, decimals).steps, decimals);
}

/** numerator ÷ denominator, raised to the next step of `decimals` unless it is exact. */
export function divideUp(numerator: Decimal, denominator: Decimal, decimals: number): Decimal {
  refuseNegative(numerator, denominator);
  const { steps, rest } = stepsOf(numerator, denominator, decimals);
  return fromSteps(rest === 0n ? steps : steps + 1n, decimals);
}

function refuseNegative(numerator: Decimal, denominator: Decimal): void {
  if (denominator.lte(0) || numerator.lt(0))
    throw new RangeError("This takes a quotient that is not negative");
}

/** numerator ÷ denominator, rounded half away from zero, the rule for money (docs/rules.md § 1). */
export function divideRounded(numerator: Decimal, denominator: Decimal, decimals: number): Decimal {
  const { steps, rest, by } = stepsOf(numerator, denominator, decimals);
  const rounded = fromSteps(rest * 2n >= by ? steps + 1n : steps, decimals);
  return numerator.s === denominator.s ? rounded : rounded.neg();
}

/** numerator ÷ denominator where it has no more than `decimals` decimals; null where it would have to be rounded. */
export function divideExact(numerator: Decimal, denominator: Decimal, decimals: number): Decimal | null {
  const rounded = divideRounded(numerator, denominator, decimals);
  return rounded.times(denominator).eq(numerator) ? rounded : null;
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
