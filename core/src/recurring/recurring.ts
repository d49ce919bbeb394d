import { addDays, type Day, type Decimal, daysBetween, max, weekday, ZERO } from "../amounts/index.ts";

/** Keep at least so many free, and build at least so many at once. */
export interface StockTarget {
  target: Decimal;
  batch: Decimal;
}

/**
 * How many to build so that free stock comes up to its target (docs/rules.md § 9): less what can still come good of builds
 * that are queued or on the bench, and what stands on drafts. Free may be below zero: what is promised is built too.
 */
export function toBuildForTarget(
  { target, batch }: StockTarget,
  free: Decimal,
  coming: Decimal,
  planned: Decimal,
): Decimal {
  const missing = target.minus(free).minus(coming).minus(planned);
  return missing.lte(0) ? ZERO : max(batch, missing);
}

/** A build that is made again and again: on these weekdays (1 Monday … 7 Sunday), from a day on. */
export interface RecurringBuild {
  weekdays: readonly number[];
  from: Day;
}

/**
 * The day for which a standing build is to be made today: the latest of its days up to today that has none yet. Days
 * that passed while nobody looked are not made up for one by one. Null where there is none.
 */
export function recurringDay(
  { weekdays, from }: RecurringBuild,
  lastMade: Day | null,
  today: Day,
): Day | null {
  for (let day = today; daysBetween(day, today) < 7; day = addDays(day, -1)) {
    if (day < from || (lastMade !== null && day <= lastMade)) return null;
    if (weekdays.includes(weekday(day))) return day;
  }
  return null;
}

/** The next of its days after today. */
export function nextRecurring({ weekdays, from }: RecurringBuild, today: Day): Day | null {
  const first = from > today ? from : addDays(today, 1);
  for (let i = 0; i < 7; i++) {
    const day = addDays(first, i);
    if (weekdays.includes(weekday(day))) return day;
  }
  return null;
}
