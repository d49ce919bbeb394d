export { type ListPrice, listPrices } from "./listprices.ts";
export { customerIds, priceListRecords, removePriceSteps, writePriceLists } from "./pricelistfiles.ts";
export { kitsThatFollow } from "./pricelists.ts";
export { priceRoutes } from "./routes.ts";
export { type PricedSerial, pricedSerials, serialPrice, setSerialPrice } from "./serialprices.ts";
