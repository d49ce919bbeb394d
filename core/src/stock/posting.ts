import { type Decimal, MONEY_DECIMALS, roundMoney, ZERO } from "../amounts/index.ts";

/** Where stock lies: a place and, in it, a bin ("" where it has none). */
export interface Spot {
  place: number;
  bin: string;
  /** The build that stock on the bench or outside was handed out to; left out where it belongs to none. */
  build?: number;
}

/** Stock that carries one value: an item, and the lot or serial where it is tracked so ("" where it is not). */
export interface PoolKey {
  item: number;
  lot: string;
  serial: string;
}

/**
 * One line of a posting. From nowhere it is a receipt, to nowhere an issue, from spot to spot a move. A move to a build,
 * or from one, is an issue there and a receipt here: its value is fixed then and belongs to that build.
 */
export interface Movement extends PoolKey {
  /** Above zero, in the item's stock unit. */
  quantity: Decimal;
  from: Spot | null;
  to: Spot | null;
  /** What a receipt brings in, and what an issue takes that mirrors one; all else is valued by its pool. */
  value: Decimal | null;
  /** What this line is for, where that differs from the rest of the posting: "counted: …". */
  reason?: string;
}

/** The movements that take earlier ones back, last first, each with the value it had (docs/rules.md § 9). */
export function mirrored(movements: readonly ValuedMovement[]): Movement[] {
  return movements.map(({ from, to, ...movement }) => ({ ...movement, from: to, to: from })).reverse();
}

export interface ValuedMovement extends Movement {
  value: Decimal;
}

export interface Balance extends PoolKey, Spot {
  quantity: Decimal;
}

export interface Pool extends PoolKey {
  /** The build it was handed out to; left out where it belongs to none. */
  build?: number;
  quantity: Decimal;
  value: Decimal;
}

/** What the books hold of the items that a posting touches. Keys come from `poolKey` and `spotKey`. */
export interface StockState {
  balances: ReadonlyMap<string, Balance>;
  pools: ReadonlyMap<string, Pool>;
}

export const EMPTY_STOCK: StockState = { balances: new Map(), pools: new Map() };

/** Where a posting would take more than is there. */
export interface Shortage extends PoolKey, Spot {
  there: Decimal;
  wanted: Decimal;
}

export type Posted =
  | { ok: true; movements: ValuedMovement[]; stock: StockState }
  | {
      ok: false;
      shortages: Shortage[];
      /** Pools that would be left below zero in value, or with value and no quantity. */
      unbalanced: PoolKey[];
    };

// JSON keeps the fields apart whatever characters a lot or bin has.
export const poolKey = (key: PoolKey & Pick<Pool, "build">): string =>
  JSON.stringify([key.item, key.lot, key.serial, key.build ?? 0]);
export const spotKey = (key: PoolKey & Spot): string =>
  JSON.stringify([key.item, key.lot, key.serial, key.place, key.bin, key.build ?? 0]);

/**
 * The one rule of the ledger (docs/rules.md § 5 and § 9): applies movements in order, values each, and refuses all of
 * them where one would take a balance below zero. Nothing is changed in place.
 */
export function post(stock: StockState, movements: readonly Movement[]): Posted {
  const balances = new Map(stock.balances);
  const pools = new Map(stock.pools);
  const shortages: Shortage[] = [];
  const valued: ValuedMovement[] = [];
  const touched = new Set<string>();
  for (const movement of movements) {
    if (movement.quantity.lte(0)) throw new RangeError("A movement has a quantity above zero");
    const { from, to } = movement;
    if (from) {
      const there = balances.get(spotKey({ ...movement, ...from }))?.quantity ?? ZERO;
      if (there.lt(movement.quantity)) {
        shortages.push({ ...keyOf(movement), ...from, there, wanted: movement.quantity });
        continue;
      }
    }
    const value = movementValue(movement, pools);
    if (from) move(balances, movement, from, ZERO.minus(movement.quantity));
    if (to) move(balances, movement, to, movement.quantity);
    if (changesPool(movement)) {
      if (from)
        touched.add(add(pools, movement, from.build, ZERO.minus(movement.quantity), ZERO.minus(value)));
      if (to) touched.add(add(pools, movement, to.build, movement.quantity, value));
    }
    valued.push({ ...movement, value });
  }
  const unbalanced = [...touched]
    .flatMap((key) => pools.get(key) ?? [])
    .filter((pool) => pool.quantity.lt(0) || pool.value.lt(0) || (pool.quantity.eq(0) && !pool.value.eq(0)));
  return shortages.length + unbalanced.length > 0
    ? { ok: false, shortages, unbalanced: unbalanced.map(keyOf) }
    : { ok: true, movements: valued, stock: { balances, pools } };
}

/** An issue's share of its pool's value, rounded; the last unit takes all that is left. */
export function issueValue(pool: Pick<Pool, "quantity" | "value">, quantity: Decimal): Decimal {
  if (quantity.eq(pool.quantity)) return pool.value;
  return roundMoney(pool.value.times(quantity).div(pool.quantity), MONEY_DECIMALS);
}

/** A move within what belongs to nobody, or within one build, changes no value. */
const changesPool = ({ from, to }: Movement): boolean =>
  !from || !to || (from.build ?? 0) !== (to.build ?? 0);

function movementValue(movement: Movement, pools: ReadonlyMap<string, Pool>): Decimal {
  const { from, quantity, value } = movement;
  if (!changesPool(movement)) return ZERO;
  if (from) return value ?? issueValue(poolOf(pools, movement, from.build), quantity);
  if (value === null) throw new RangeError("A receipt says what it is worth");
  return value;
}

/** The pool of some stock as a posting knows it; empty where there is none. */
export function poolOf(pools: ReadonlyMap<string, Pool>, key: PoolKey, build: number | undefined): Pool {
  const owner = build === undefined ? {} : { build };
  return pools.get(poolKey({ ...key, ...owner })) ?? { ...keyOf(key), ...owner, quantity: ZERO, value: ZERO };
}

/** Changes what a pool holds; gives its key. */
function add(
  pools: Map<string, Pool>,
  key: PoolKey,
  build: number | undefined,
  quantity: Decimal,
  value: Decimal,
): string {
  const pool = poolOf(pools, key, build);
  const at = poolKey(pool);
  pools.set(at, { ...pool, quantity: pool.quantity.plus(quantity), value: pool.value.plus(value) });
  return at;
}

function move(balances: Map<string, Balance>, key: PoolKey, spot: Spot, by: Decimal): void {
  const at = spotKey({ ...key, ...spot });
  const quantity = (balances.get(at)?.quantity ?? ZERO).plus(by);
  balances.set(at, { ...keyOf(key), ...spot, quantity });
}

function keyOf({ item, lot, serial }: PoolKey): PoolKey {
  return { item, lot, serial };
}
