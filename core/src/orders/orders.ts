import type { Ask, Standing } from "../allocations/index.ts";
import { type Decimal, divideDown, min, ONE, type Rate, rateOf, valueAt } from "../amounts/index.ts";

/** Where a customer's order stands; a quote reserves nothing until it is ordered. */
export const ORDER_STAGES = ["quote", "open", "cancelled"] as const;
export type OrderStage = (typeof ORDER_STAGES)[number];

/** What a line comes to: quantity × price × (100 − discount) ÷ 100, rounded once to so many decimals (docs/rules.md § 12). */
export function lineTotal(quantity: Decimal, price: Rate, discount: Decimal, decimals: number): Decimal {
  const hundred = ONE.times(100);
  const reduced = rateOf(price.amount, price.per.times(hundred));
  return valueAt(quantity.times(hundred.minus(discount)), reduced, decimals);
}

/** Whole sets or units that could leave, of so many; what takes nothing from stock, as work does, is ready as it is. */
export function setsReady(
  quantity: Decimal,
  components: readonly { per: Decimal; ready: Decimal }[],
  decimals: number,
): Decimal {
  const reaches = components.map(({ per, ready }) => divideDown(ready, per, decimals));
  return reaches.reduce((least, reach) => min(least, reach), quantity);
}

/** How a line of a built item is covered; both add up to what is open. In whole millionths. */
export interface LineCover {
  fromStock: number;
  toBuild: number;
}

/**
 * How a line is proposed to be covered: all free stock first and what comes for nobody, or always built. What was made for it comes
 * of its builds and not from stock (docs/rules.md § 11).
 */
export function proposedCover(
  { open, made, shipped }: Pick<Ask, "open" | "made" | "shipped">,
  { ready, dealtOut }: Pick<Standing, "ready" | "dealtOut">,
  alwaysBuild: boolean,
): LineCover {
  const own = Math.min(ready, Math.max(0, made - shipped));
  const fromStock = alwaysBuild ? 0 : ready - own + dealtOut;
  return { fromStock, toBuild: open - fromStock };
}

/** Why an order of a customer needs somebody to go on anyway. */
export const CREDIT_STOPS = ["on hold", "over the credit limit"] as const;
export type CreditStop = (typeof CREDIT_STOPS)[number];

/** What stops an order that comes to `asked`, beside what the customer owes and has on order; null where nothing does. */
export function creditStop(
  { onHold, limit }: { onHold: boolean; limit: Decimal | null },
  used: Decimal,
  asked: Decimal,
): CreditStop | null {
  if (onHold) return "on hold";
  return limit !== null && used.plus(asked).gt(limit) ? "over the credit limit" : null;
}
