import { SubNav } from "../ui/index.ts";

/** The pages of customers' orders, side by side. */
export function OrdersNav() {
  return (
    <SubNav
      label="Pages of orders"
      pages={[
        { to: "/orders", name: "Orders" },
        { to: "/orders/ready", name: "Ready to ship" },
        { to: "/shipments", name: "Shipments" },
        { to: "/returns", name: "Returns" },
      ]}
    />
  );
}
