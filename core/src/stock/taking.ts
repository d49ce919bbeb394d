import { type Day, type Decimal, min, ZERO } from "../amounts/index.ts";
import type { Balance, PoolKey, Spot } from "./posting.ts";

/** Stock that lies ready to be taken, with what decides its turn. */
export interface Takeable extends Balance {
  expiry: Day | null;
  /** The day on which this lot or serial first came in. */
  received: Day;
  /** Whether it lies in the item's home bin, which is emptied first. */
  home: boolean;
}

/** A lot may be used through its expiry day. */
export function expired(expiry: Day | null, day: Day): boolean {
  return expiry !== null && expiry < day;
}

/** Suggested order (docs/rules.md § 8): earliest expiry, without expiry last, then earliest receipt, lot code, home bin, bin. */
export function byTurn(a: Takeable, b: Takeable): number {
  return (
    text(a.expiry ?? "9999", b.expiry ?? "9999") ||
    text(a.received, b.received) ||
    text(a.lot, b.lot) ||
    text(a.serial, b.serial) ||
    Number(b.home) - Number(a.home) ||
    a.place - b.place ||
    text(a.bin, b.bin)
  );
}

export interface Taken extends PoolKey {
  from: Spot;
  quantity: Decimal;
}

/**
 * Takes `quantity` of one item from what lies ready, in the suggested order, never from expired lots. What is taken is
 * deducted in `left`, so that a second line of the same item finds only the rest. Null where it does not suffice.
 */
export function take(left: Takeable[], item: number, quantity: Decimal, day: Day): Taken[] | null {
  const taken: Taken[] = [];
  let open = quantity;
  const ready = left
    .filter((b) => b.item === item && b.quantity.gt(0) && !expired(b.expiry, day))
    .sort(byTurn);
  for (const balance of ready) {
    if (open.lte(0)) break;
    const now = min(open, balance.quantity);
    const { lot, serial, place, bin } = balance;
    taken.push({ item, lot, serial, from: { place, bin }, quantity: now });
    balance.quantity = balance.quantity.minus(now);
    open = open.minus(now);
  }
  return open.gt(ZERO) ? null : taken;
}

function text(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
