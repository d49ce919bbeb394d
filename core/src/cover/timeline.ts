import type { Day } from "../amounts/index.ts";

// Quantities are whole millionths of the stock unit, as the database keeps them: tens of thousands of items are looked
// through at once, and whole numbers of that size are exact.

/** Something that adds to stock or takes from it. */
export interface StockChange {
  /** null where no day is known: it changes nothing on the way. */
  day: Day | null;
  /** Above zero for a receipt, below for a need. */
  change: number;
}

export interface StockDay<Change extends StockChange> {
  day: Day;
  /** What is there at the end of the day. */
  stock: number;
  changes: Change[];
}

export interface Timeline<Change extends StockChange> {
  /** Today, and each later day on which something happens. */
  days: StockDay<Change>[];
  undated: Change[];
  /** First day on which stock falls below zero, and below the reorder level where there is one. */
  firstShort: Day | null;
  firstLow: Day | null;
}

/**
 * Stock day by day: from what is usable today, by every receipt and need. What is overdue happens today, and what happens
 * on one day is taken together: a receipt of the morning serves the need of the afternoon.
 */
export function timeline<Change extends StockChange>(
  usable: number,
  changes: readonly Change[],
  level: number | null,
  today: Day,
): Timeline<Change> {
  const byDay = new Map<Day, Change[]>([[today, []]]);
  const undated: Change[] = [];
  for (const change of changes) {
    if (change.day === null) {
      undated.push(change);
      continue;
    }
    const day = change.day < today ? today : change.day;
    const known = byDay.get(day);
    if (known) known.push(change);
    else byDay.set(day, [change]);
  }
  let stock = usable;
  const days = [...byDay.keys()].sort().map((day): StockDay<Change> => {
    const happening = byDay.get(day) ?? [];
    for (const { change } of happening) stock += change;
    return { day, stock, changes: happening };
  });
  return {
    days,
    undated,
    firstShort: days.find((d) => d.stock < 0)?.day ?? null,
    firstLow: level === null ? null : (days.find((d) => d.stock < level)?.day ?? null),
  };
}
