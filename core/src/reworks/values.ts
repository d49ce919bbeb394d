import { type Decimal, MONEY_DECIMALS, split, sum, ZERO } from "../amounts/index.ts";

/** A unit in a rework, or a quantity of one lot, with what it carried when it went in. */
export interface UnitInRework {
  quantity: Decimal;
  valueIn: Decimal;
}

/** What a part, a step or a line of text in a rework costs. */
export interface ReworkCost {
  /** Place of the unit that it is for; null: for all of them. */
  unit: number | null;
  value: Decimal;
}

/**
 * What each unit carries when it comes out (docs/rules.md § 18): what it carried, what was for it alone, and its share by quantity of what
 * was for all. All that went in comes out, to the last digit.
 */
export function valuesOut(units: readonly UnitInRework[], costs: readonly ReworkCost[]): Decimal[] {
  const shared = sum(costs.flatMap(({ unit, value }) => (unit === null ? [value] : [])));
  const shares =
    units.length === 0
      ? []
      : split(
          shared,
          units.map(({ quantity }) => quantity),
          MONEY_DECIMALS,
        );
  return units.map(({ valueIn }, i) =>
    sum([valueIn, shares[i] ?? ZERO, ...costs.flatMap(({ unit, value }) => (unit === i ? [value] : []))]),
  );
}
