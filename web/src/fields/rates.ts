import { decimal, type Rate, rateOf } from "@yosegi/core";

/** A rate as an answer tells it, to be calculated with. */
export const rateFrom = (told: { amount: string; per: string } | null): Rate | null =>
  told && rateOf(decimal(told.amount), decimal(told.per));
