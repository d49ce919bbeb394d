import { type Decimal, divideRounded, MONEY_DECIMALS, max, min, sum, ZERO } from "../amounts/index.ts";
import { sameOwner } from "./owner.ts";
import type { ValuedMovement } from "./posting.ts";
import { PURPOSES } from "./purpose.ts";

/** Costs that come to value in a posting without being stock (docs/rules.md § 9). */
export const ADDED = [
  "work",
  "overhead",
  "subcontractor's fee",
  "extra cost",
  "parts not stock-tracked",
  "take-apart work",
  "rework step",
  "rework line",
  "found by a count",
  "price corrected",
] as const;
/** Where value is lost in a posting. */
export const LOST = [
  "rejected",
  "scrapped",
  "damaged",
  "missing",
  "work put in",
  "price difference",
  "count down",
  "not stock-tracked",
  "given back to a customer",
] as const;

/** What stands beside the movements of a posting so that its values add up. Negative in an undo. */
export type PostingEntry = { value: Decimal; reason: string } & (
  | { side: "added"; what: (typeof ADDED)[number] }
  | { side: "lost"; what: (typeof LOST)[number] }
);

/** An entry; null where there is nothing to enter. */
export const added = (what: (typeof ADDED)[number], value: Decimal, reason = ""): PostingEntry[] =>
  value.eq(0) ? [] : [{ side: "added", what, value, reason }];
export const lost = (what: (typeof LOST)[number], value: Decimal, reason = ""): PostingEntry[] =>
  value.eq(0) ? [] : [{ side: "lost", what, value, reason }];

/**
 * By how much a posting does not balance (docs/rules.md § 9): value out of pools + value from outside + cost added, less
 * value into pools + value to outside + losses. Zero where all is accounted for.
 */
export function imbalance(
  movements: readonly Pick<ValuedMovement, "from" | "to" | "value" | "purpose">[],
  entries: readonly PostingEntry[],
): Decimal {
  const moved = movements.map(({ from, to, value, purpose }) => {
    const within = from && to && sameOwner(from.owner, to.owner);
    if (within || PURPOSES[purpose].outside || (from && to)) return ZERO;
    return from ? value : ZERO.minus(value);
  });
  const entered = entries.map(({ side, value }) => (side === "added" ? value : ZERO.minus(value)));
  return sum([...moved, ...entered]);
}

/** What counts found and lost, as their posting enters it. */
export function countEntries(
  movements: readonly Pick<ValuedMovement, "from" | "value" | "purpose" | "reason">[],
): PostingEntry[] {
  return movements
    .filter(({ purpose }) => purpose === "counted")
    .flatMap(({ from, value, reason }) =>
      from ? lost("count down", value, reason) : added("found by a count", value, reason),
    );
}

/** Entries of the posting that takes one back. */
export const mirroredEntries = (entries: readonly PostingEntry[]): PostingEntry[] =>
  entries.map((entry) => ({ ...entry, value: ZERO.minus(entry.value) }));

/**
 * A receipt's price put right afterwards (docs/rules.md § 5): of the difference in what it was worth, the pool takes the
 * share of what is still on hand, yet never more than it is worth; the rest is a price difference.
 */
export function priceCorrection(
  difference: Decimal,
  pool: { quantity: Decimal; value: Decimal },
  received: Decimal,
): { pool: Decimal; rest: Decimal } {
  const share = divideRounded(difference.times(min(pool.quantity, received)), received, MONEY_DECIMALS);
  const taken = max(share, ZERO.minus(pool.value));
  return { pool: taken, rest: difference.minus(taken) };
}
