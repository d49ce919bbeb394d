import { type Decimal, divideDown, min, ONE, step, type Unit, ZERO } from "../amounts/index.ts";
import { goodFrom, itemNeed, type ListLine, type PartsList } from "../catalog/index.ts";

/** How many units of the product stock allows; "no limit" where more units take no more of it. */
export type Reach = Decimal | "no limit";

/**
 * The largest N of good units that the product's unit allows with need(N) ≤ free, for one part over all of its lines
 * (docs/rules.md § 3). The need only grows with N, so the answer is found by halving below a bound that is exact but for
 * the rounding up of needs.
 */
export function reach(lines: readonly ListLine[], list: Omit<PartsList, "lines">, free: Decimal): Reach {
  if (free.lt(0)) return ZERO;
  const { makes } = list;
  const growing = lines.filter((line) => !line.oncePerBuild);
  if (growing.length === 0) return itemNeed(lines, makes, ONE).lte(free) ? "no limit" : ZERO;
  const bound = growing
    .map((line) =>
      divideDown(
        free.times(makes).times(line.stockUnit.factor).times(100),
        line.quantity.times(line.unit.factor).times(line.waste.plus(100)),
        list.decimals,
      ),
    )
    .reduce(min);
  const started = mostThatFits(bound, list, (n) => itemNeed(lines, makes, n).lte(free));
  return goodFrom(list, started);
}

/** The smallest of several reaches; "no limit" where there is none. */
export function smallest(reaches: readonly Reach[]): Reach {
  return reaches.reduce<Reach>(
    (a, b) => (a === "no limit" ? b : b === "no limit" ? a : min(a, b)),
    "no limit",
  );
}

/** The largest N up to `bound`, in steps of the product's unit, that fits; `fits` must hold for all smaller ones too. */
export function mostThatFits(
  bound: Decimal,
  productUnit: Pick<Unit, "decimals">,
  fits: (n: Decimal) => boolean,
): Decimal {
  const one = step(productUnit.decimals);
  if (bound.lte(0)) return ZERO;
  if (fits(bound)) return bound;
  let good = ZERO;
  let bad = bound;
  while (bad.minus(good).gt(one)) {
    const middle = divideDown(good.plus(bad), one.times(2), 0).times(one);
    if (fits(middle)) good = middle;
    else bad = middle;
  }
  return good;
}

/** Lines by the item they take, in the order in which each item first stands there. */
export function linesByItem(all: readonly ListLine[]): Map<number, ListLine[]> {
  const byItem = new Map<number, ListLine[]>();
  for (const line of all) {
    const lines = byItem.get(line.item);
    if (lines) lines.push(line);
    else byItem.set(line.item, [line]);
  }
  return byItem;
}
