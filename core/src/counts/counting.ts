import { type Day, type Decimal, divideRounded, MONEY_DECIMALS, sum, ZERO } from "../amounts/index.ts";
import type { PoolKey, Spot } from "../stock/index.ts";

/** How far a count sheet is. */
export const COUNT_STATES = ["open", "posted", "undone", "cancelled"] as const;

/** What was counted of a line of a count sheet, and what the books said at that moment. */
export interface CountAgainst {
  counted: Decimal;
  books: Decimal;
  /** By how much other counts have corrected the books since; below zero where they took away. */
  corrected: Decimal;
}

/** How far the books are off by what was counted, but for what other counts have put right already. */
export const countDifference = ({ counted, books, corrected }: CountAgainst): Decimal =>
  counted.minus(books).minus(corrected);

/**
 * What is there now: what moved since it was counted has moved what was counted too; what another count corrected has moved nothing. Below
 * zero where more has left since than was counted: then one of the two is wrong.
 */
export const thereNow = (against: CountAgainst, booksNow: Decimal): Decimal =>
  booksNow.plus(countDifference(against));

/** Stock at one place, as it is weighed up for counting. */
export interface CountableStock extends PoolKey {
  from: Spot;
  quantity: Decimal;
  /** What all of its pool is worth, and how much that is. */
  poolValue: Decimal;
  poolQuantity: Decimal;
  /** How often it was moved to or from there lately, since it was last counted. */
  moves: number;
  /** The day it was last counted there; null: never. */
  lastCounted: Day | null;
}

/** A bin that could be counted. */
export interface BinToCount {
  location: number;
  bin: string;
  items: number;
  value: Decimal;
  moves: number;
  /** Of what was counted longest ago; null where something was never counted. */
  lastCounted: Day | null;
  /** Value times movements, added up over what is in it. */
  weight: Decimal;
}

/**
 * The bins by how much a count of them would tell (docs/rules.md § 15): what is worth much and moved often since it was counted comes first;
 * where nothing moved, what was never counted, then what was counted longest ago.
 */
export function binsToCount(stock: readonly CountableStock[]): BinToCount[] {
  const bins = new Map<string, CountableStock[]>();
  for (const one of stock) {
    const key = JSON.stringify([one.from.location, one.from.bin]);
    bins.set(key, [...(bins.get(key) ?? []), one]);
  }
  return [...bins.values()]
    .flatMap((inBin) => (inBin[0] ? [binOf(inBin[0].from, inBin)] : []))
    .sort(
      (a, b) =>
        b.weight.cmp(a.weight) ||
        (a.lastCounted ?? "").localeCompare(b.lastCounted ?? "") ||
        b.value.cmp(a.value) ||
        a.location - b.location ||
        a.bin.localeCompare(b.bin),
    );
}

function binOf({ location, bin }: Spot, stock: readonly CountableStock[]): BinToCount {
  const values = stock.map(({ quantity, poolValue, poolQuantity }) =>
    poolQuantity.eq(0) ? ZERO : divideRounded(poolValue.times(quantity), poolQuantity, MONEY_DECIMALS),
  );
  const days = stock.map(({ lastCounted }) => lastCounted ?? "").sort();
  return {
    location,
    bin,
    items: new Set(stock.map(({ item }) => item)).size,
    value: sum(values),
    moves: stock.reduce((n, { moves }) => n + moves, 0),
    lastCounted: days[0] || null,
    weight: sum(stock.map(({ moves }, i) => (values[i] ?? ZERO).times(moves))),
  };
}
