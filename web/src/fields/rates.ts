import { decimal, type Rate, rateOf } from "@yosegi/core";

/** A rate as an answer tells it, to be calculated with. */
export const rateFrom = (rate: { amount: string; per: string } | null): Rate | null =>
  rate && rateOf(decimal(rate.amount), decimal(rate.per));
