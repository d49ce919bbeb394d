import { type Decimal, MONEY_DECIMALS, split, sum, ZERO } from "../amounts/index.ts";

/** How much of one pool is at a place. */
export interface PoolAt {
  place: string;
  quantity: Decimal;
}

/** What of one pool is at a place, with its share of the pool's value. */
export interface PlaceValue extends PoolAt {
  value: Decimal;
}

/**
 * Shares the value of a pool over the places where it lies, by quantity, adding up to the whole. Where dating back leaves a value for no
 * pieces on a day, it belongs to no place: it was revalued by later entries (docs/rules.md § 14).
 */
export function placeValues(
  value: Decimal,
  places: readonly PoolAt[],
): { at: PlaceValue[]; revalued: Decimal } {
  const there = places.filter(({ quantity }) => quantity.gt(0));
  if (sum(there.map(({ quantity }) => quantity)).eq(0)) return { at: [], revalued: value };
  const weights = there.map(({ quantity }) => quantity);
  const shares = value.lt(0)
    ? split(value.neg(), weights, MONEY_DECIMALS).map((share) => share.neg())
    : split(value, weights, MONEY_DECIMALS);
  return { at: there.map((place, i) => ({ ...place, value: shares[i] ?? ZERO })), revalued: ZERO };
}
