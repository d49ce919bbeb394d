import { moneyFromScaled, quantityFromScaled, type Rate, rateOf } from "@yosegi/core";

/** A price as two columns keep it: money, and how much of the stock unit it is for. */
export const rateFromScaled = (amount: number, per: number): Rate =>
  rateOf(moneyFromScaled(amount), quantityFromScaled(per));

export const rateOrNull = (amount: number | null, per: number): Rate | null =>
  amount === null ? null : rateFromScaled(amount, per);
