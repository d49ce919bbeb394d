import { Big, type Decimal, decimal, decimalsOf, ZERO } from "./decimal.ts";

/** Decimals of a stored quantity: whole millionths of the stock unit. */
export const QUANTITY_DECIMALS = 6;
/** Decimals of a stored amount of money: whole ten-thousandths of the currency unit. */
export const MONEY_DECIMALS = 4;
/** Stored amounts stay within this, so that they read back exactly as a number (2^53 is a little more). */
export const LARGEST_STORED = 9_000_000_000_000_000;

/** Refused amount: it would not be kept exactly. */
export class AmountTooLarge extends RangeError {}

function toScaled(value: Decimal, decimals: number): number {
  if (decimalsOf(value) > decimals)
    throw new RangeError(`${value.toFixed()} has more than ${decimals} decimals`);
  const moved = new Big(value);
  if (!moved.eq(ZERO)) moved.e += decimals;
  const scaled = moved.toNumber();
  if (Math.abs(scaled) > LARGEST_STORED)
    throw new AmountTooLarge(`${value.toFixed()} is too large to be kept`);
  return scaled;
}

/** Only the point moves; a list shows thousands of these, and a multiplication would take longer than the query. */
function fromScaled(scaled: number, decimals: number): Decimal {
  const value = decimal(scaled);
  if (scaled !== 0) value.e -= decimals;
  return value;
}

/** A quantity as the database keeps it. Throws where it has more than six decimals or is too large. */
export const quantityToScaled = (quantity: Decimal): number => toScaled(quantity, QUANTITY_DECIMALS);
export const quantityFromScaled = (scaled: number): Decimal => fromScaled(scaled, QUANTITY_DECIMALS);

/** Money as the database keeps it. Throws where it has more than four decimals or is too large. */
export const moneyToScaled = (money: Decimal): number => toScaled(money, MONEY_DECIMALS);
export const moneyFromScaled = (scaled: number): Decimal => fromScaled(scaled, MONEY_DECIMALS);
