import { type Decimal, MONEY_DECIMALS, roundMoney, ZERO } from "../amounts/index.ts";

/** Where stock lies: a place and, in it, a bin ("" where it has none). */
export interface Spot {
  place: number;
  bin: string;
}

/** Stock that carries one value: an item, and the lot or serial where it is tracked so ("" where it is not). */
export interface PoolKey {
  item: number;
  lot: string;
  serial: string;
}

/** One line of a posting. From nowhere it is a receipt, to nowhere an issue, from spot to spot a move. */
export interface Movement extends PoolKey {
  /** Above zero, in the item's stock unit. */
  quantity: Decimal;
  from: Spot | null;
  to: Spot | null;
  /** What a receipt brings in, and what an issue takes that mirrors one; all else is valued by its pool. */
  value: Decimal | null;
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
export const poolKey = (key: PoolKey): string => JSON.stringify([key.item, key.lot, key.serial]);
export const spotKey = (key: PoolKey & Spot): string =>
  JSON.stringify([key.item, key.lot, key.serial, key.place, key.bin]);

/**
 * The one rule of the ledger (docs/rules.md § 5 and § 9): applies movements in order, values each, and refuses all of
 * them where one would take a balance below zero. Nothing is changed in place.
 */
export function post(stock: StockState, movements: readonly Movement[]): Posted {
  const balances = new Map(stock.balances);
  const pools = new Map(stock.pools);
  const shortages: Shortage[] = [];
  const valued: ValuedMovement[] = [];
  for (const movement of movements) {
    if (movement.quantity.lte(0)) throw new RangeError("A movement has a quantity above zero");
    const { from, to } = movement;
    if (from) {
      const there = balances.get(spotKey({ ...movement, ...from }))?.quantity ?? ZERO;
      if (there.lt(movement.quantity)) {
        const { item, lot, serial } = movement;
        shortages.push({ item, lot, serial, ...from, there, wanted: movement.quantity });
        continue;
      }
    }
    const pool = pools.get(poolKey(movement)) ?? { ...keyOf(movement), quantity: ZERO, value: ZERO };
    const value = movementValue(movement, pool);
    if (from) move(balances, movement, from, ZERO.minus(movement.quantity));
    if (to) move(balances, movement, to, movement.quantity);
    if (from === null || to === null) {
      const sign = from === null ? 1 : -1;
      pools.set(poolKey(movement), {
        ...pool,
        quantity: pool.quantity.plus(movement.quantity.times(sign)),
        value: pool.value.plus(value.times(sign)),
      });
    }
    valued.push({ ...movement, value });
  }
  const unbalanced = [...pools.values()].filter(
    (pool) => pool.quantity.lt(0) || pool.value.lt(0) || (pool.quantity.eq(0) && !pool.value.eq(0)),
  );
  return shortages.length + unbalanced.length > 0
    ? { ok: false, shortages, unbalanced: unbalanced.map(keyOf) }
    : { ok: true, movements: valued, stock: { balances, pools } };
}

/** An issue's share of its pool's value, rounded; the last unit takes all that is left. */
export function issueValue(pool: Pick<Pool, "quantity" | "value">, quantity: Decimal): Decimal {
  if (quantity.eq(pool.quantity)) return pool.value;
  return roundMoney(pool.value.times(quantity).div(pool.quantity), MONEY_DECIMALS);
}

function movementValue(movement: Movement, pool: Pool): Decimal {
  if (movement.from !== null && movement.to !== null) return ZERO;
  if (movement.from !== null) return movement.value ?? issueValue(pool, movement.quantity);
  if (movement.value === null) throw new RangeError("A receipt says what it is worth");
  return movement.value;
}

function move(balances: Map<string, Balance>, key: PoolKey, spot: Spot, by: Decimal): void {
  const at = spotKey({ ...key, ...spot });
  const quantity = (balances.get(at)?.quantity ?? ZERO).plus(by);
  balances.set(at, { ...keyOf(key), place: spot.place, bin: spot.bin, quantity });
}

function keyOf({ item, lot, serial }: PoolKey): PoolKey {
  return { item, lot, serial };
}
