import { decimal, ONE, rateOf, ZERO } from "../amounts/index.ts";
import type { SoldLine } from "../shipping/index.ts";

/** A line of KIT-YARD at 239.00: hive, suit, gloves, smoker and hive tool, items 1 to 5. */
export const yard = (quantity = "1"): SoldLine => ({
  quantity: decimal(quantity),
  price: rateOf(decimal("239.00")),
  discount: ZERO,
  decimals: 0,
  components: ["164.00", "58.00", "14.50", "27.90", "9.60"].map((price, i) => ({
    item: i + 1,
    quantity: ONE,
    stocked: true,
    price: rateOf(decimal(price)),
    cost: null,
  })),
});
