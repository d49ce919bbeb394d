import type { Ask, Standing } from "../allocations/index.ts";
import { type Decimal, divideDown, HUNDRED, min, type Rate, rateOf, valueAt } from "../amounts/index.ts";

/** Where a customer's order stands; a quote reserves nothing until it is ordered. What left, and what is still open, say the rest. */
export const ORDER_STAGES = ["quote", "open", "part shipped", "shipped", "cancelled"] as const;
export type OrderStage = (typeof ORDER_STAGES)[number];

/** Stages of orders of which something is still to leave. */
export const OPEN_ORDER_STAGES = ["open", "part shipped"] as const satisfies readonly OrderStage[];

/** Whether something of an order is still to leave. */
export const isOpenOrder = (stage: OrderStage): boolean => OPEN_ORDER_STAGES.some((open) => open === stage);

/** The stage of what was ordered, after what left of it and what is still open. */
export function orderStageOf({ left, open }: { left: boolean; open: boolean }): Exclude<OrderStage, "quote"> {
  if (open) return left ? "part shipped" : "open";
  return left ? "shipped" : "cancelled";
}

/** What a line comes to: quantity × price × (100 − discount) ÷ 100, rounded once to so many decimals (docs/rules.md § 12). */
export function lineTotal(quantity: Decimal, price: Rate, discount: Decimal, decimals: number): Decimal {
  const reduced = rateOf(price.amount, price.per.times(HUNDRED));
  return valueAt(quantity.times(HUNDRED.minus(discount)), reduced, decimals);
}

/** Whole sets or units that so much of each component makes, of so many; all where nothing is taken from stock. */
export function wholeSets(
  quantity: Decimal,
  components: readonly { per: Decimal; has: Decimal }[],
  decimals: number,
): Decimal {
  const reaches = components.map(({ per, has }) => divideDown(has, per, decimals));
  return reaches.reduce((least, reach) => min(least, reach), quantity);
}

/** Whole sets or units that could leave now, beyond those that left; a set of which single pieces left is completed. */
export function setsReady(
  quantity: Decimal,
  components: readonly { per: Decimal; shipped: Decimal; ready: Decimal }[],
  decimals: number,
): Decimal {
  const makes = (has: (component: (typeof components)[number]) => Decimal) =>
    wholeSets(
      quantity,
      components.map((component) => ({ per: component.per, has: has(component) })),
      decimals,
    );
  return makes(({ shipped, ready }) => shipped.plus(ready)).minus(makes(({ shipped }) => shipped));
}

/** What became of a component of a line, or of a line that takes nothing from stock; in whole millionths. */
export interface Ordered {
  ordered: number;
  shipped: number;
  closed: number;
}

/** What is still to leave: ordered − shipped − closed (docs/rules.md § 11). */
export const openOfOrdered = ({ ordered, shipped, closed }: Ordered): number => ordered - shipped - closed;

/** The same after another quantity was ordered: what was closed gives way where fewer are. */
export const reordered = (
  { shipped, closed }: Pick<Ordered, "shipped" | "closed">,
  ordered: number,
): Ordered => ({
  ordered,
  shipped,
  closed: Math.max(0, Math.min(closed, ordered - shipped)),
});

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
