import { type Day, type Decimal, ZERO } from "../amounts/index.ts";

/** By how much what is at one spot changed on a day. */
export interface DayChange {
  day: Day;
  change: Decimal;
}

/**
 * The earliest day, from the one asked for on, on which so much could have been taken from a spot: at the end of that day
 * and of each since then it held as much (docs/rules.md § 9). Days on which the books were below zero anyway refuse
 * nothing. `changes` are all that happened there, in any order; what holds too little even now is not this rule's.
 */
export function firstDayFor(changes: readonly DayChange[], quantity: Decimal, day: Day): Day {
  const later = [...new Set(changes.map((change) => change.day))].filter((d) => d > day).sort();
  const heldOn = (end: Day) =>
    changes.reduce((held, change) => (change.day <= end ? held.plus(change.change) : held), ZERO);
  let first = day;
  for (const [i, end] of [day, ...later].entries()) {
    const held = heldOn(end);
    const next = later[i];
    if (next !== undefined && held.gte(0) && held.lt(quantity)) first = next;
  }
  return first;
}
