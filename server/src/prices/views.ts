/** What other areas may read of this one's tables (docs/architecture.md). */
export const priceViews = {
  list_price: "SELECT price FROM price_step",
};
