export { PricesPage } from "./pricespage.tsx";
