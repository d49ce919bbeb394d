import {
  convertNeed,
  type Decimal,
  divideDown,
  divideUp,
  HUNDRED,
  max,
  sum,
  type Unit,
  ZERO,
} from "../amounts/index.ts";

/** One line of a parts list as far as figures depend on it: so much of a part for one batch, or once for the whole build. */
export interface ListLine {
  /** The part, by the id of its item. */
  item: number;
  /** Quantity a batch in `unit`; zero for a part that came in at a finish, which needs nothing. */
  quantity: Decimal;
  unit: Unit;
  /** The unit in which the part is stocked; for a service, the unit of its rate. */
  stockUnit: Unit;
  /** Allowance in percent, 0 or more. */
  waste: Decimal;
  oncePerBuild: boolean;
  /** Work, not stock: it costs and never limits. */
  service: boolean;
  /** Kept on the books. What is not (work, rags, tape) costs and prints, and never limits. */
  stocked: boolean;
}

/** What goes into one batch of a product: single level. Lines that are optional and not chosen are left out before. */
export interface PartsList<Line extends ListLine = ListLine> {
  /** How much one batch makes, in the product's unit. */
  makes: Decimal;
  /** The build quantity at which the expected cost is figured. */
  usual: Decimal;
  /** Money for each unit worked on. */
  overhead: Decimal;
  /** Money for each build. */
  extra: Decimal;
  /** Percent of the started units that come out good: above 0, up to 100. */
  yield: Decimal;
  /** Decimals of the product's unit. */
  decimals: number;
  lines: readonly Line[];
}

/** The unit in which a line's need is told: stock in its stock unit; work in the unit it is planned in. */
export function needUnit(line: Pick<ListLine, "service" | "unit" | "stockUnit">): Unit {
  return line.service ? line.unit : line.stockUnit;
}

/** What a line says with its waste, times a hundred, in the line's own unit. */
const grossPercent = (line: ListLine): Decimal => line.quantity.times(line.waste.plus(100));

/** What one unit takes of a line that grows with the build, before it is raised: an exact fraction, in the line's need unit. */
export const needOfOne = (line: ListLine, makes: Decimal): { numerator: Decimal; denominator: Decimal } => ({
  numerator: grossPercent(line).times(line.unit.factor),
  denominator: makes.times(100).times(needUnit(line).factor),
});

/** What a build of `quantity` takes for one line, raised once to its unit's decimals (docs/rules.md § 2). */
export function lineNeed(line: ListLine, makes: Decimal, quantity: Decimal): Decimal {
  if (quantity.lte(0) || line.quantity.eq(0)) return ZERO;
  const gross = grossPercent(line);
  const scaled = line.oncePerBuild ? gross : gross.times(quantity);
  return convertNeed(scaled, line.oncePerBuild ? HUNDRED : makes.times(100), line.unit, needUnit(line));
}

/** What a build of `quantity` takes of one item, over all of its lines. */
export function itemNeed(lines: readonly ListLine[], makes: Decimal, quantity: Decimal): Decimal {
  return sum(lines.map((line) => lineNeed(line, makes, quantity)));
}

/**
 * What the next `now` units of a build take of a line when `done` are made already: the difference of two needs, so
 * that two halves never take more than the whole.
 */
export function nextNeed(line: ListLine, makes: Decimal, done: Decimal, now: Decimal): Decimal {
  return lineNeed(line, makes, done.plus(now)).minus(lineNeed(line, makes, done));
}

/** How far a build has come that is queued: what is worked already, and what of each line lies on its bench. */
export interface Progress {
  /** Units that are started in all, good or not. */
  units: Decimal;
  /** Of these, worked: good and rejected. */
  done: Decimal;
  benchOf: (line: ListLine) => Decimal;
}

/** What the next `now` units of a build still take out of the stores for a line: its need, less what lies on the bench. */
export function stillToTake(
  line: ListLine,
  makes: Decimal,
  { done, benchOf }: Pick<Progress, "done" | "benchOf">,
  now: Decimal,
): Decimal {
  if (!line.stocked) return ZERO;
  return max(ZERO, nextNeed(line, makes, done, now).minus(benchOf(line)));
}

type Yielding = Pick<PartsList, "yield" | "decimals">;

/** How many to start so that `good` come out at the list's yield, raised to the product's decimals (docs/rules.md § 2). */
export function startFor(list: Yielding, good: Decimal): Decimal {
  return divideUp(good.times(100), list.yield, list.decimals);
}

/** The most good units for which no more than `started` have to be started. */
export function goodFrom(list: Yielding, started: Decimal): Decimal {
  return divideDown(started.times(list.yield), HUNDRED, list.decimals);
}

/**
 * What a build makes where it is rounded up to whole batches (docs/rules.md § 2): so many batches, and the good units of them.
 * Null where it is whole batches as it is, or where a batch is one unit, so that there is nothing to fill up.
 */
export function wholeBatches(
  list: Yielding & Pick<PartsList, "makes">,
  good: Decimal,
): { batches: Decimal; good: Decimal } | null {
  if (list.makes.eq(1)) return null;
  const batches = divideUp(startFor(list, good), list.makes, 0);
  const filled = goodFrom(list, batches.times(list.makes));
  return filled.eq(good) ? null : { batches, good: filled };
}

/**
 * The parts that are told in the product's own dimension, added up in its unit beside what a batch makes: 1.3 L in,
 * 1 L out. Null where there are none, or where both are the same; counted goods are put together, not mixed.
 */
export function mixedAmount(list: Pick<PartsList, "makes" | "lines">, unit: Unit): Decimal | null {
  if (unit.dimension === "count") return null;
  const mixed = list.lines.filter(
    (line) => !line.service && !line.oncePerBuild && line.unit.dimension === unit.dimension,
  );
  if (mixed.length === 0) return null;
  const total = sum(mixed.map((line) => line.quantity.times(line.unit.factor))).div(unit.factor);
  return total.eq(list.makes) ? null : total;
}

/**
 * The way on which a product would be among its own parts if `part` went into it, from the product to itself; null
 * where there is none. `partsOf` gives the parts of any item's lists.
 */
export function findCycle<K>(product: K, part: K, partsOf: (item: K) => readonly K[]): K[] | null {
  const seen = new Set<K>();
  const follow = (item: K, path: readonly K[]): K[] | null => {
    if (item === product) return [...path, item];
    if (seen.has(item)) return null;
    seen.add(item);
    for (const next of partsOf(item)) {
      const found = follow(next, [...path, item]);
      if (found) return found;
    }
    return null;
  };
  return follow(part, [product]);
}
