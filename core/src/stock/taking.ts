import { type Day, type Decimal, min, type Rate, sum, valueAt, ZERO } from "../amounts/index.ts";
import {
  type Balance,
  type Movement,
  type PoolKey,
  type SourceLine,
  type Spot,
  type StockState,
  spotKey,
} from "./posting.ts";

/** Stock that lies ready to be taken, with what decides its turn. */
export interface PickableStock extends Balance {
  expiry: Day | null;
  /** The day on which this lot or serial first came in. */
  received: Day;
  /** Whether it lies in the item's home bin, which is emptied first. */
  home: boolean;
  /** Where its bin comes in the walk of a picker; without one, by its code. */
  walk?: number | null;
}

/** A lot may be used through its expiry day. */
export function expired(expiry: Day | null, day: Day): boolean {
  return expiry !== null && expiry < day;
}

/** Suggested order (docs/rules.md § 8): earliest expiry, without expiry last, then earliest receipt, lot code, home bin, bin. */
export function byTurn(a: PickableStock, b: PickableStock): number {
  return (
    text(a.expiry ?? "9999", b.expiry ?? "9999") ||
    text(a.received, b.received) ||
    text(a.lot, b.lot) ||
    text(a.serial, b.serial) ||
    Number(b.home) - Number(a.home) ||
    byWalk(a, b)
  );
}

/** The order in which a picker comes by bins: store by store, those that have a place in the walk first, then by code. */
export function byWalk(
  a: Pick<PickableStock, "location" | "bin" | "walk">,
  b: Pick<PickableStock, "location" | "bin" | "walk">,
): number {
  return (
    a.location - b.location ||
    (a.walk ?? Number.MAX_SAFE_INTEGER) - (b.walk ?? Number.MAX_SAFE_INTEGER) ||
    text(a.bin, b.bin)
  );
}

export interface StockPick extends PoolKey {
  from: Spot;
  quantity: Decimal;
}

/** What is taken of an item, and for whom. */
export interface PickRequest {
  item: number;
  quantity: Decimal;
  /** Lots or serials that the person chose, in their order; empty: the suggested order. */
  only: readonly string[];
  /** Id of the place that its line names; it is emptied before any other. */
  store?: number | null;
}

/**
 * Takes as much of one item as lies ready, up to `quantity`: in the suggested order, its own store first, or of the lots
 * and serials that were chosen, never from expired lots. What is taken is deducted in `left`, so that a second line of the same item
 * finds only the rest.
 */
export function take(
  left: PickableStock[],
  { item, quantity, only, store = null }: PickRequest,
  day: Day,
): StockPick[] {
  const taken: StockPick[] = [];
  let open = quantity;
  const own = ({ location }: PickableStock) => Number(location === store);
  const chosen = ({ lot, serial }: PickableStock) => only.indexOf(serial === "" ? lot : serial);
  const ready = left
    .filter((b) => b.item === item && b.quantity.gt(0) && !expired(b.expiry, day))
    .filter((b) => only.length === 0 || chosen(b) >= 0)
    .sort((a, b) => chosen(a) - chosen(b) || own(b) - own(a) || byTurn(a, b));
  for (const balance of ready) {
    if (open.lte(0)) break;
    const now = min(open, balance.quantity);
    const { lot, serial, location, bin, owner } = balance;
    taken.push({
      item,
      lot,
      serial,
      quantity: now,
      from: { location, bin, ...(owner !== undefined && { owner }) },
    });
    balance.quantity = balance.quantity.minus(now);
    open = open.minus(now);
  }
  return taken;
}

/** What was taken in all. */
export const quantityOf = (taken: readonly StockPick[]): Decimal => sum(taken.map((t) => t.quantity));

/** Where stock came from that lies with a build now, latest first. */
export interface Source extends PoolKey {
  from: Spot;
  quantity: Decimal;
}

/**
 * The movements that return stock of a build to where it came from, the last handed out first. What has no known source
 * goes to `home`. `lineOf` gives the line of the build that an item was handed out for.
 */
export function returnToStock(
  lying: readonly Balance[],
  sources: readonly Source[],
  home: (item: number) => Spot,
  lineOf: (item: number) => SourceLine,
): Movement[] {
  const left = sources.map((source) => ({ ...source }));
  return lying
    .filter((balance) => balance.quantity.gt(0))
    .flatMap(({ item, lot, serial, quantity, ...from }) => {
      const moves: Movement[] = [];
      const line = { purpose: "returned to stock" as const, source: lineOf(item) };
      let open = quantity;
      const move = (to: Spot, by: Decimal) => {
        moves.push({ ...line, item, lot, serial, quantity: by, from, to, value: null });
        open = open.minus(by);
      };
      for (const source of left) {
        if (source.item !== item || source.lot !== lot || source.serial !== serial) continue;
        const now = min(open, source.quantity);
        if (now.lte(0)) continue;
        source.quantity = source.quantity.minus(now);
        move(source.from, now);
      }
      if (open.gt(0)) move(home(item), open);
      return moves;
    });
}

/** What a person found in a bin, against what the books say. */
export interface Counted extends PoolKey {
  at: Spot;
  /** What is really there; zero or more. */
  there: Decimal;
  /** Of its lot. */
  expiry: Day | null;
  reason: string;
  /** What one is worth where the count is higher than the books (docs/rules.md § 5). */
  unitCost: Rate;
}

/** The movements that put the books right: a count up comes in at what one is worth, a count down is an issue. */
export function countMovements(stock: StockState, counts: readonly Counted[]): Movement[] {
  return counts.flatMap(({ at, there, reason, unitCost, expiry: _, ...key }) => {
    const books = stock.balances.get(spotKey({ ...key, ...at }))?.quantity ?? ZERO;
    const more = there.minus(books);
    if (more.eq(0)) return [];
    const value = valueAt(more, unitCost);
    const purpose = "counted" as const;
    return [
      more.gt(0)
        ? { ...key, purpose, quantity: more, from: null, to: at, value, reason }
        : { ...key, purpose, quantity: more.abs(), from: at, to: null, value: null, reason },
    ];
  });
}

function text(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

/** What lies ready once the counts are recorded. */
export function withCounts(ready: readonly PickableStock[], counts: readonly Counted[]): PickableStock[] {
  const after = new Map(ready.map((balance) => [spotKey(balance), balance]));
  for (const { at, there, expiry, reason: _, unitCost: __, ...key } of counts) {
    const spot = spotKey({ ...key, ...at });
    const { received = "", home = false } = after.get(spot) ?? {};
    after.set(spot, { ...key, ...at, quantity: there, expiry, received, home });
  }
  return [...after.values()];
}
