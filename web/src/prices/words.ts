import type { PriceListHead } from "@yosegi/contract";

/** Whose price list it is. */
export const ownerWords = ({ customer, group }: Pick<PriceListHead, "customer" | "group">): string =>
  customer?.name ?? group;
