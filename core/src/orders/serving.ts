import { type Decimal, divideDown, max, min, sum, ZERO } from "../amounts/index.ts";

/** Where a customer's order stands. */
export const ORDER_STAGES = ["open", "cancelled"] as const;
export type OrderStage = (typeof ORDER_STAGES)[number];

/** What one order line asks of one item; quantities in the item's stock unit. */
export interface Ask {
  /** Reserved by the line and not taken yet. */
  open: Decimal;
  /** Of the units that were built for it, how many are made: they are its own before anybody else's. */
  made: Decimal;
}

/**
 * Which of the asks for an item what is there covers, those first in the list first: each has what was made for it, then
 * the rest is dealt out in turn. Never more than an ask, never more than there is (docs/rules.md § 11).
 */
export function dealOut(there: Decimal, asks: readonly Ask[]): Decimal[] {
  let left = max(ZERO, there);
  const take = (most: Decimal): Decimal => {
    const taken = min(left, max(ZERO, most));
    left = left.minus(taken);
    return taken;
  };
  const own = asks.map(({ open, made }) => take(min(open, made)));
  return asks.map(({ open }, i) => {
    const had = own[i] ?? ZERO;
    return had.plus(take(open.minus(had)));
  });
}

/** How much a build is good for, and how much of that is made. */
export interface Yield {
  wanted: Decimal;
  good: Decimal;
  /** Finished or cancelled: no more comes of it. */
  ended: boolean;
}

/** What each of the lines that a build serves gets of it, in the order in which they were linked. */
export interface Served {
  /** Made already. */
  made: Decimal;
  /** Still to be made. */
  coming: Decimal;
}

/**
 * Shares a build out among the lines it serves: each in turn gets what it was linked for, as far as the build goes. What
 * is made is the first ones' first (docs/rules.md § 11).
 */
export function serve({ wanted, good, ended }: Yield, linked: readonly Decimal[]): Served[] {
  const gives = ended ? good : max(wanted, good);
  let [left, done] = [gives, good];
  return linked.map((quantity) => {
    const gets = min(left, quantity);
    const made = min(done, gets);
    [left, done] = [left.minus(gets), done.minus(made)];
    return { made, coming: gets.minus(made) };
  });
}

/** How much of a build is free to serve a further line. */
export function unlinked({ wanted, good, ended }: Yield, linked: readonly Decimal[]): Decimal {
  return max(ZERO, (ended ? good : max(wanted, good)).minus(sum(linked)));
}

/** How far what a line takes of one item can be served now. */
export interface TakeState {
  /** There for it. */
  ready: Decimal;
  /** Being built for it. */
  coming: Decimal;
  /** Neither there nor being built: what is still to be built, or bought. */
  missing: Decimal;
}

/** How it stands with so much that is open, of which so much was dealt out and so much is being built for it. */
export function takeState(open: Decimal, got: Decimal, coming: Decimal): TakeState {
  const built = min(coming, open.minus(got));
  return { ready: got, coming: built, missing: open.minus(got).minus(built) };
}

/** Whole sets or units that could leave, of so many; what takes nothing from stock, as work does, is ready as it is. */
export function setsReady(
  quantity: Decimal,
  takes: readonly { per: Decimal; ready: Decimal }[],
  decimals: number,
): Decimal {
  const reaches = takes.map(({ per, ready }) => divideDown(ready, per, decimals));
  return reaches.reduce((least, reach) => min(least, reach), quantity);
}
