import { type Decimal, ZERO } from "../amounts/index.ts";

/** What the books say of one item in usable places. */
export interface StockFigures {
  onHand: Decimal;
  /** Of that, in lots past their expiry day: there, but never free. */
  expired: Decimal;
  /** What queued builds still have to take. */
  reserved: Decimal;
}

export const NO_STOCK: StockFigures = { onHand: ZERO, expired: ZERO, reserved: ZERO };

/** free = on hand in usable places − expired − reserved; may be below zero (docs/rules.md § 3). */
export function free(stock: StockFigures): Decimal {
  return stock.onHand.minus(stock.expired).minus(stock.reserved);
}
