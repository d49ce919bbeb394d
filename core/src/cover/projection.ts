import { AmountTooLarge, type Day } from "../amounts/index.ts";
import { orderBy } from "../buying/index.ts";
import { type StockChange, timeline } from "./timeline.ts";

/** What all open demand does to one item. Quantities are whole millionths of the stock unit. */
export interface Outlook {
  /** Usable and not expired. */
  usable: number;
  /** Reorder level; 0 where none is set. */
  level: number;
  /** Every open need, below zero, and all that is on its way. */
  changes: readonly StockChange[];
}

export interface Projection {
  /** Usable less all needs. */
  free: number;
  /** Free with all that is incoming. */
  projected: number;
  /** What would bring it up to the level again; 0 where nothing would. */
  wanted: number;
  /** First day on which stock falls below zero, and below the level, by what has a day. */
  firstShort: Day | null;
  firstLow: Day | null;
  /** All that is needed is incoming, and some of it too late. */
  comesTooLate: boolean;
}

/** Projects one item's free stock over all open needs and all that is incoming. */
export function project({ usable, level, changes }: Outlook, today: Day): Projection {
  let [free, projected] = [usable, usable];
  for (const { change } of changes) {
    projected += change;
    if (change < 0) free += change;
  }
  if (!Number.isSafeInteger(free) || !Number.isSafeInteger(projected))
    throw new AmountTooLarge("A projection grows too large to be calculated exactly");
  const { firstShort, firstLow } = timeline(usable, changes, level, today);
  return {
    free,
    projected,
    wanted: Math.max(0, level - projected),
    firstShort,
    firstLow,
    comesTooLate: firstShort !== null && projected >= 0,
  };
}

/**
 * The last day to order or build so much that it is there in time: before the first short day by so many days; where
 * the stock only falls below its level, on the day it does, for that is what the level is for. Null where no day can be told.
 */
export function actBy(
  { firstShort, firstLow }: Pick<Projection, "firstShort" | "firstLow">,
  days: number | null,
): Day | null {
  if (firstShort === null) return firstLow;
  return orderBy(firstShort, { leadDays: days });
}
