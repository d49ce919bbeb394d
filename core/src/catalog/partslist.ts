import { convertNeed, type Decimal, divideUp, ONE, sum, type Unit, ZERO } from "../amounts/index.ts";

/** One line of a parts list: so much of a part for one batch, or once for the whole build. */
export interface ListLine {
  /** The part, by the id of its item. */
  item: number;
  /** Quantity a batch in `unit`, above zero. */
  quantity: Decimal;
  unit: Unit;
  /** The unit in which the part is stocked; for a service, the unit of its rate. */
  stockUnit: Unit;
  /** Allowance in percent, 0 or more. */
  waste: Decimal;
  oncePerBuild: boolean;
  /** Work, not stock: it costs and never limits. */
  service: boolean;
}

/** What goes into one batch of a product: single level. */
export interface PartsList {
  /** How much one batch makes, in the product's unit. */
  makes: Decimal;
  /** The build quantity at which the expected cost is figured. */
  usual: Decimal;
  /** Money for each unit worked on. */
  overhead: Decimal;
  lines: readonly ListLine[];
}

/** The unit in which a line's need is told: stock in its stock unit; work in the unit it is planned in. */
export function needUnit(line: Pick<ListLine, "service" | "unit" | "stockUnit">): Unit {
  return line.service ? line.unit : line.stockUnit;
}

/** What a build of `quantity` takes for one line, raised once to its unit's decimals (docs/rules.md § 2). */
export function lineNeed(line: ListLine, makes: Decimal, quantity: Decimal): Decimal {
  if (quantity.lte(0)) return ZERO;
  const gross = line.quantity.times(line.waste.plus(100));
  const scaled = line.oncePerBuild ? gross : gross.times(quantity);
  return convertNeed(
    scaled,
    line.oncePerBuild ? ONE.times(100) : makes.times(100),
    line.unit,
    needUnit(line),
  );
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

/** How many to start so that `good` come out at a yield in percent above 0 and up to 100, in the product's decimals. */
export function startFor(good: Decimal, yieldPercent: Decimal, productUnit: Pick<Unit, "decimals">): Decimal {
  return divideUp(good.times(100), yieldPercent, productUnit.decimals);
}

/**
 * The way on which a product would be among its own parts if `part` went into it, from the product to itself; null
 * where there is none. `partsOf` gives the parts of any item's list.
 */
export function circle<K>(product: K, part: K, partsOf: (item: K) => readonly K[]): K[] | null {
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
