import { type Decimal, divideDown, min } from "../amounts/index.ts";

/** Where a customer's order stands. */
export const ORDER_STAGES = ["open", "cancelled"] as const;
export type OrderStage = (typeof ORDER_STAGES)[number];

/** Whole sets or units that could leave, of so many; what takes nothing from stock, as work does, is ready as it is. */
export function setsReady(
  quantity: Decimal,
  components: readonly { per: Decimal; ready: Decimal }[],
  decimals: number,
): Decimal {
  const reaches = components.map(({ per, ready }) => divideDown(ready, per, decimals));
  return reaches.reduce((least, reach) => min(least, reach), quantity);
}
