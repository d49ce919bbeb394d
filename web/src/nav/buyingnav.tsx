import { SubNav } from "../ui/index.ts";

/** The pages of buying, side by side. */
export function BuyingNav() {
  return (
    <SubNav
      label="Buying"
      pages={[
        { to: "/buying", name: "Purchase orders" },
        { to: "/reorder", name: "Reorder" },
        { to: "/supplier-returns", name: "Returns to suppliers" },
        { to: "/outbox", name: "Outbox" },
      ]}
    />
  );
}
