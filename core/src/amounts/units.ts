import { type Decimal, decimal, decimalsOf, divideRounded, divideUp } from "./decimal.ts";

export const DIMENSIONS = ["mass", "volume", "length", "count", "time"] as const;

export type Dimension = (typeof DIMENSIONS)[number];

/** A unit of measure. `factor` says how many of the dimension's smallest shipped unit one of it is. */
export interface Unit {
  code: string;
  name: string;
  dimension: Dimension;
  factor: Decimal;
  /** How many decimals a quantity in this unit may have: 0 to 6. */
  decimals: number;
  /** UN/ECE Recommendation 20 common code, for open formats. */
  rec20: string;
}

const unit = (
  code: string,
  name: string,
  dimension: Dimension,
  factor: number,
  decimals: number,
  rec20: string,
): Unit => ({ code, name, dimension, factor: decimal(factor), decimals, rec20 });

/** The units every new database starts with. Pieces have no decimals; stock kept in kg and L is drawn in g and mL. */
export const SHIPPED_UNITS: readonly Unit[] = [
  unit("pc", "piece", "count", 1, 0, "H87"),
  unit("pair", "pair", "count", 2, 0, "PR"),
  unit("dozen", "dozen", "count", 12, 0, "DZN"),
  unit("job", "job", "count", 1, 0, "E51"),
  unit("kg", "kilogram", "mass", 1000, 3, "KGM"),
  unit("g", "gram", "mass", 1, 3, "GRM"),
  unit("L", "litre", "volume", 1000, 3, "LTR"),
  unit("mL", "millilitre", "volume", 1, 3, "MLT"),
  unit("m", "metre", "length", 100, 3, "MTR"),
  unit("cm", "centimetre", "length", 1, 2, "CMT"),
  unit("hour", "hour", "time", 60, 4, "HUR"),
  unit("min", "minute", "time", 1, 2, "MIN"),
];

export function convertible(from: Unit, to: Unit): boolean {
  return from.dimension === to.dimension;
}

/** How far a quantity exceeds what its unit allows: the number of decimals it has, or null where it is fine. */
export function tooManyDecimals(quantity: Decimal, unit: Pick<Unit, "decimals">): number | null {
  const has = decimalsOf(quantity);
  return has > unit.decimals ? has : null;
}

/**
 * Converts a need from the unit of a line to the stock unit, raised once to the stock unit's decimals.
 * `over` is a divisor still open (a batch size), so that the only rounding is this one. Throws where the
 * dimensions differ: lists are checked before they get here.
 */
export function convertNeed(quantity: Decimal, over: Decimal, from: Unit, to: Unit): Decimal {
  if (!convertible(from, to)) throw new RangeError(`${from.code} does not convert to ${to.code}`);
  return divideUp(quantity.times(from.factor), over.times(to.factor), to.decimals);
}

/** Units by their code, exactly as written: mL and ML are not the same to a chemist. */
export type Units = ReadonlyMap<string, Unit>;

/** How many of the largest pack that it fills at least once a quantity is, to two decimals; null where it fills none. */
export function fillsPacks(
  quantity: string,
  packs: readonly { name: string; quantity: string }[],
): { name: string; count: string } | null {
  const filled = packs.filter((pack) => decimal(pack.quantity).gt(0) && decimal(pack.quantity).lte(quantity));
  const [first, ...others] = filled;
  if (!first) return null;
  const largest = others.reduce((a, b) => (decimal(b.quantity).gt(a.quantity) ? b : a), first);
  return {
    name: largest.name,
    count: divideRounded(decimal(quantity), decimal(largest.quantity), 2).toFixed(),
  };
}
