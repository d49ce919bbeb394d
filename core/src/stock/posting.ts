import { type Decimal, divideRounded, MONEY_DECIMALS, ZERO } from "../amounts/index.ts";
import { type Owner, ownerKey, sameOwner } from "./owner.ts";
import type { Purpose } from "./purpose.ts";

/** Where stock is: a location and, in it, a bin ("" where it has none). */
export interface Spot {
  location: number;
  bin: string;
  /** Whose it is; left out where it is the company's own. */
  owner?: Owner;
}

/** Stock that carries one value: an item, and the lot or serial where it is tracked so ("" where it is not). */
export interface PoolKey {
  item: number;
  lot: string;
  serial: string;
}

/** The very line of a document that a movement is for. */
export interface SourceLine {
  document:
    | "build"
    | "purchase"
    | "order"
    | "import"
    | "return"
    | "take-apart"
    | "supplier-return"
    | "rework";
  /** Id of the document. */
  id: number;
  /** Number or id of its line, as the document's table has it; 0: the document as a whole, such as a build's finished units. */
  line: number;
}

/**
 * One line of a posting. From nowhere it is a receipt, to nowhere an issue, from spot to spot a move. A move to another
 * owner is an issue there and a receipt here: its value is fixed then and belongs to that owner.
 */
export interface Movement extends PoolKey {
  purpose: Purpose;
  /** Left out where no document has a line for it. */
  source?: SourceLine;
  /** In the item's stock unit; zero where it carries value alone. */
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
  /** Whose it is; left out where it is the company's own. */
  owner?: Owner;
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

/** A posting that may be: its movements with their values, and what the books hold after it. */
export interface Valued {
  ok: true;
  movements: ValuedMovement[];
  stock: StockState;
}

export type Posted =
  | Valued
  | {
      ok: false;
      shortages: Shortage[];
      /** Pools that would be left below zero in value, or with value and no quantity. */
      unbalanced: PoolKey[];
    };

// JSON keeps the fields apart whatever characters a lot or bin has.
export const poolKey = (key: PoolKey & Pick<Pool, "owner">): string =>
  JSON.stringify([key.item, key.lot, key.serial, ...ownerKey(key.owner)]);
export const spotKey = (key: PoolKey & Spot): string =>
  JSON.stringify([key.item, key.lot, key.serial, key.location, key.bin, ...ownerKey(key.owner)]);

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
    refuseImpossible(movement);
    const { from, to } = movement;
    if (from && movement.quantity.gt(0)) {
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
        touched.add(add(pools, movement, from.owner, ZERO.minus(movement.quantity), ZERO.minus(value)));
      if (to) touched.add(add(pools, movement, to.owner, movement.quantity, value));
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
  return divideRounded(pool.value.times(quantity), pool.quantity, MONEY_DECIMALS);
}

/** What no use case may ask for, whatever the books hold. */
function refuseImpossible({ quantity, value, from, to }: Movement): void {
  if (quantity.lt(0) || (quantity.eq(0) && !value?.gt(0)))
    throw new RangeError("A movement has a quantity above zero, or a value alone");
  // What a customer owns is worth nothing to us (docs/rules.md § 9).
  const owners = [from?.owner, to?.owner];
  if (owners.some((owner) => owner?.kind === "customer") && !value?.eq(0))
    throw new RangeError("A customer's own unit carries no value");
}

/** A move within what one owner has changes no value. */
const changesPool = ({ from, to }: Pick<Movement, "from" | "to">): boolean =>
  !from || !to || !sameOwner(from.owner, to.owner);

function movementValue(movement: Movement, pools: ReadonlyMap<string, Pool>): Decimal {
  const { from, quantity, value } = movement;
  if (!changesPool(movement)) return ZERO;
  if (from) return value ?? issueValue(poolOf(pools, movement, from.owner), quantity);
  if (value === null) throw new RangeError("A receipt says what it is worth");
  return value;
}

/** The pool of some stock as a posting knows it; empty where there is none. */
export function poolOf(pools: ReadonlyMap<string, Pool>, key: PoolKey, owner: Owner | undefined): Pool {
  const whose = owner === undefined ? {} : { owner };
  return pools.get(poolKey({ ...key, ...whose })) ?? { ...keyOf(key), ...whose, quantity: ZERO, value: ZERO };
}

/** Changes what a pool holds; gives its key. */
function add(
  pools: Map<string, Pool>,
  key: PoolKey,
  owner: Owner | undefined,
  quantity: Decimal,
  value: Decimal,
): string {
  const pool = poolOf(pools, key, owner);
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
