import { SubNav } from "../ui/index.ts";

/** The pages of the catalog, side by side. */
export function CatalogNav() {
  return (
    <SubNav
      label="Catalog"
      pages={[
        { to: "/catalog", name: "Items" },
        { to: "/prices", name: "Prices" },
        { to: "/price-lists", name: "Price lists" },
        { to: "/replace", name: "Replace a part" },
        { to: "/suppliers", name: "Suppliers" },
        { to: "/customers", name: "Customers" },
        { to: "/import", name: "Spreadsheets" },
      ]}
    />
  );
}
