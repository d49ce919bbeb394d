import { type Decimal, divideRounded, MONEY_DECIMALS } from "../amounts/index.ts";

/** A lot, a unit or a quantity as a shipment took it, and what of it came back before. */
export interface ShippedPiece {
  quantity: Decimal;
  /** What it carried when it was shipped. */
  value: Decimal;
  returned: Decimal;
}

/** The value at which so much of a shipped piece enters returns: what it carried when it was shipped, so that all of it together brings back all (docs/rules.md § 12). */
export function enteringValue({ quantity, value, returned }: ShippedPiece, returning: Decimal): Decimal {
  const upTo = (so: Decimal) => divideRounded(value.times(so), quantity, MONEY_DECIMALS);
  return upTo(returned.plus(returning)).minus(upTo(returned));
}
