import { SubNav } from "../ui/index.ts";

/** The pages of stock, side by side. */
export function StockNav() {
  return (
    <SubNav
      label="Pages of stock"
      pages={[
        { to: "/stock", name: "Ledger" },
        { to: "/stock/places", name: "Where everything is" },
        { to: "/stock/counts", name: "Counts" },
        { to: "/stock/book", name: "Move, scrap, receive" },
      ]}
    />
  );
}
