import { decimal, type Rate, rateOf } from "@yosegi/core";

/** A rate as an answer tells it, to be calculated with. */
export const rateFrom = (rate: { amount: string; per: string } | null): Rate | null =>
  rate && rateOf(decimal(rate.amount), decimal(rate.per));

/** A price as it is typed with what it is for, as it is sent: one that is not said is for nothing. */
export const rateBody = (price: string, per: string): { price: string | null; pricePer: string } =>
  price === "" ? { price: null, pricePer: "" } : { price, pricePer: per };
