import type { Day, Decimal } from "../amounts/index.ts";

/** Something that adds to stock or takes from it on a day. */
export interface StockEvent {
  /** Its own name, to tell what it is. */
  key: string;
  /** null where nobody said a day: it changes nothing on the way, and is told apart. */
  day: Day | null;
  /** Above zero for a receipt, below for a need. */
  change: Decimal;
}

export interface TimelineDay {
  day: Day;
  /** What is there at the end of the day. */
  stock: Decimal;
  events: StockEvent[];
}

export interface Timeline {
  /** Today, and each later day on which something happens. */
  days: TimelineDay[];
  /** What has no day. */
  undated: StockEvent[];
  firstBelowZero: Day | null;
  /** First day below the reorder level, where there is one. */
  firstBelowLevel: Day | null;
}

/** Stock day by day: from what is usable today, by every receipt and need. What is overdue happens today. */
export function timeline(
  usable: Decimal,
  events: readonly StockEvent[],
  level: Decimal | null,
  today: Day,
): Timeline {
  const byDay = new Map<Day, StockEvent[]>([[today, []]]);
  for (const event of events) {
    if (event.day === null) continue;
    const day = event.day < today ? today : event.day;
    byDay.set(day, [...(byDay.get(day) ?? []), event]);
  }
  let stock = usable;
  const days = [...byDay.keys()].sort().map((day): TimelineDay => {
    const happening = byDay.get(day) ?? [];
    for (const { change } of happening) stock = stock.plus(change);
    return { day, stock, events: happening };
  });
  return {
    days,
    undated: events.filter((event) => event.day === null),
    firstBelowZero: days.find((d) => d.stock.lt(0))?.day ?? null,
    firstBelowLevel: level === null ? null : (days.find((d) => d.stock.lt(level))?.day ?? null),
  };
}
