/** A price as it is typed with what it is for, as it is sent: one that is not said is for nothing. */
export const rateBody = (price: string, per: string): { price: string | null; pricePer: string } =>
  price === "" ? { price: null, pricePer: "" } : { price, pricePer: per };
