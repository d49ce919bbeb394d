import { type Decimal, divideDown, max, min, ONE, step, sum, type Unit, ZERO } from "../amounts/index.ts";
import {
  goodFrom,
  itemNeed,
  type ListLine,
  needOfOne,
  nextNeed,
  type PartsList,
  type Progress,
  stillToTake,
} from "../lists/index.ts";

/** How many units of the product stock allows; "no limit" where more units take no more of it. */
export type Reach = Decimal | "no limit";

/**
 * The largest N of good units that the product's unit allows with need(N) ≤ free, for one part over all of its lines
 * (docs/rules.md § 3). The need only grows with N, so the answer is found by halving below a bound that is exact but for
 * the rounding up of needs. Of a build that is begun, only the rest counts.
 */
export function reach(
  lines: readonly ListLine[],
  list: Omit<PartsList, "lines">,
  free: Decimal,
  progress: Progress | null = null,
): Reach {
  const needing = lines.filter((line) => line.quantity.gt(0));
  if (needing.length === 0) return "no limit";
  if (free.lt(0)) return ZERO;
  const { makes } = list;
  const need = (n: Decimal) => needOf(needing, makes, progress, n);
  const growing = needing.filter((line) => !line.oncePerBuild);
  if (growing.length === 0) return need(ONE).lte(free) ? "no limit" : ZERO;
  const done = progress?.done ?? ZERO;
  const bound = growing
    .map((line) => {
      const there = progress
        ? free.plus(progress.benchOf(line)).plus(nextNeed(line, makes, ZERO, progress.done))
        : free;
      const { numerator, denominator } = needOfOne(line, makes);
      return divideDown(there.times(denominator), numerator, list.decimals);
    })
    .reduce(min)
    .minus(done);
  const started = mostThatFits(bound, list, (n) => need(n).lte(free));
  const good = goodFrom(list, started);
  const rest = progress ? progress.units.minus(progress.done) : null;
  // What was lost of a build that is begun is lost: parts for its whole rest are parts for all that can still come good.
  return rest && started.gte(rest) ? max(good, rest) : good;
}

/** What `units` more take of an item over all of its lines. */
export function needOf(
  lines: readonly ListLine[],
  makes: Decimal,
  progress: Progress | null,
  units: Decimal,
): Decimal {
  if (progress === null) return itemNeed(lines, makes, units);
  return sum(lines.map((line) => stillToTake(line, makes, progress, units)));
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
