import { AmountTooLarge, addDays, type Day } from "../amounts/index.ts";

/**
 * What all open demand does to one item. Quantities are whole millionths of the stock unit, as the database keeps
 * them: tens of thousands of items are looked through at once, and whole numbers of that size are exact.
 */
export interface Outlook {
  /** Usable and not expired. */
  usable: number;
  /** Reorder level; 0 where none is set. */
  level: number;
  /** Needs and receipts by the day on which they happen; null where nobody said one. */
  needs: readonly { day: Day | null; quantity: number }[];
  incoming: readonly { day: Day | null; quantity: number }[];
}

export interface Projection {
  /** Usable less all needs. */
  free: number;
  /** Free with all that comes. */
  projected: number;
  /** What would bring it up to the level again; 0 where nothing would. */
  wanted: number;
  /** First day on which stock falls below zero, and below the level, by what has a day. */
  firstShort: Day | null;
  firstLow: Day | null;
  /** All that is needed comes, and some of it too late. */
  comesTooLate: boolean;
}

/** Projects one item's free stock over all open needs and all that comes. What is overdue happens today. */
export function project({ usable, level, needs, incoming }: Outlook, today: Day): Projection {
  const steps: [Day, number][] = [[today, 0]];
  let free = usable;
  let coming = 0;
  for (const { day, quantity } of needs) {
    free -= quantity;
    if (day !== null) steps.push([day < today ? today : day, -quantity]);
  }
  for (const { day, quantity } of incoming) {
    coming += quantity;
    if (day !== null) steps.push([day < today ? today : day, quantity]);
  }
  const projected = free + coming;
  if (!Number.isSafeInteger(free) || !Number.isSafeInteger(projected))
    throw new AmountTooLarge("A projection grows too large to be figured exactly");
  // What happens on one day is taken together: a receipt of the morning serves the need of the afternoon.
  steps.sort((a, b) => (a[0] < b[0] ? -1 : a[0] > b[0] ? 1 : 0));
  let stock = usable;
  let firstShort: Day | null = null;
  let firstLow: Day | null = null;
  for (let i = 0; i < steps.length; i++) {
    const [day, change] = steps[i] as [Day, number];
    stock += change;
    if (steps[i + 1]?.[0] === day) continue;
    if (firstShort === null && stock < 0) firstShort = day;
    if (firstLow === null && stock < level) firstLow = day;
  }
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
  return days === null ? null : addDays(firstShort, -days);
}
