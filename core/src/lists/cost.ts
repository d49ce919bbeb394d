import {
  type Decimal,
  divideRounded,
  MONEY_DECIMALS,
  type Rate,
  rateOf,
  roundMoney,
  sum,
  type Unit,
  valueAt,
  ZERO,
} from "../amounts/index.ts";
import { type ListLine, lineNeed, type PartsList, startFor } from "./partslist.ts";

/** Money for a quantity of work in its own unit, at a rate for `rateUnit`; four decimals. */
export function workCost(quantity: Decimal, unit: Unit, { amount, per }: Rate, rateUnit: Unit): Decimal {
  return valueAt(quantity.times(unit.factor), rateOf(amount, per.times(rateUnit.factor)));
}

export interface ListCost {
  /** Cost of each line, in the order of the list; null where its part has no cost yet. */
  lines: (Decimal | null)[];
  materials: Decimal;
  work: Decimal;
  overhead: Decimal;
  /** Money for the build as a whole. */
  extra: Decimal;
  total: Decimal;
  /** For one good unit of the product: total ÷ quantity, four decimals. */
  each: Decimal;
  /** Parts whose cost is not known; where there are any, the total is only of the others. */
  unknown: number[];
}

/** What a build of `quantity` good units is expected to cost (docs/rules.md § 5): each line rounded, then added. */
export function listCost(
  list: PartsList,
  quantity: Decimal,
  unitCost: (item: number) => Rate | null,
): ListCost {
  const started = startFor(list, quantity);
  const lines = list.lines.map((line) => lineCost(line, list.makes, started, unitCost(line.item)));
  const of = (service: boolean) =>
    sum(list.lines.map((line, i) => (line.service === service ? (lines[i] ?? ZERO) : ZERO)));
  const overhead = roundMoney(list.overhead.times(started), MONEY_DECIMALS);
  const extra = quantity.gt(0) ? list.extra : ZERO;
  const total = sum([of(false), of(true), overhead, extra]);
  return {
    lines,
    materials: of(false),
    work: of(true),
    overhead,
    extra,
    total,
    each: quantity.gt(0) ? divideRounded(total, quantity, MONEY_DECIMALS) : ZERO,
    unknown: [...new Set(list.lines.filter((_, i) => lines[i] === null).map((line) => line.item))],
  };
}

function lineCost(line: ListLine, makes: Decimal, quantity: Decimal, cost: Rate | null): Decimal | null {
  if (cost === null) return null;
  const need = lineNeed(line, makes, quantity);
  if (line.service) return workCost(need, line.unit, cost, line.stockUnit);
  return valueAt(need, cost);
}

/** All that the current unit cost of an item depends on. */
export interface CostFacts {
  /** On hand and its value over all pools. */
  onHand: Decimal;
  value: Decimal;
  /** Value and quantity of the last issue; null where there never was one. */
  lastIssued: Rate | null;
  standard: Rate | null;
  list: PartsList | null;
}

/**
 * Current unit cost of any item (docs/rules.md § 5): value ÷ on hand; with nothing on hand that of the last unit
 * issued; never in stock: the list's expected cost for a built item, else the standard cost; else null: unknown.
 * A list that misses the cost of a part is unknown too, rather than too cheap. None of it is rounded.
 */
export function unitCosts(facts: (item: number) => CostFacts | undefined): (item: number) => Rate | null {
  const known = new Map<number, Rate | null>();
  const cost = (item: number): Rate | null => {
    const ready = known.get(item);
    if (ready !== undefined) return ready;
    known.set(item, null); // a list that leads back to itself finds no cost there, instead of no end
    const fact = facts(item);
    const found = fact ? costFrom(fact, cost) : null;
    known.set(item, found);
    return found;
  };
  return cost;
}

function costFrom(fact: CostFacts, cost: (item: number) => Rate | null): Rate | null {
  if (fact.onHand.gt(0)) return rateOf(fact.value, fact.onHand);
  if (fact.lastIssued !== null) return fact.lastIssued;
  if (fact.list !== null) {
    const expected = listCost(fact.list, fact.list.usual, cost);
    if (fact.list.lines.length > 0 && expected.unknown.length === 0)
      return rateOf(expected.total, fact.list.usual);
  }
  return fact.standard;
}
