export { PriceListsPage } from "./pricelistspage.tsx";
export { PricesPage } from "./pricespage.tsx";
