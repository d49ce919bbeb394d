import { moneyFromWhole, quantityFromWhole, type Rate, rateOf } from "@yosegi/core";

/** A price as two columns keep it: money, and how much of the stock unit it is for. */
export const rateFromWhole = (amount: number, per: number): Rate =>
  rateOf(moneyFromWhole(amount), quantityFromWhole(per));

export const rateOrNull = (amount: number | null, per: number): Rate | null =>
  amount === null ? null : rateFromWhole(amount, per);
