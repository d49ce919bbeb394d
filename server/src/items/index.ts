export { BRIEF, type BriefRow, briefFrom, briefs, packTexts } from "./briefs.ts";
export { createGroups, type GroupDefaults, groupsByKey } from "./groups.ts";
export { homeOf, moveHomes } from "./homes.ts";
export {
  clearPicture,
  itemById,
  itemsById,
  pictureOf,
  productById,
  setPicture,
  stockedRow,
} from "./items.ts";
export { allKnownItems, type Known, knownItems, USES, useWords } from "./known.ts";
export {
  checkCurrency,
  costTexts,
  pricedRate,
  prices,
  priceText,
  rateText,
  setPrice,
  setPrices,
} from "./pricing.ts";
export { itemRecords, supplierRecords } from "./records.ts";
export { itemRoutes } from "./routes.ts";
export { removeSupplier, setAgreedPrice, supplierIds, suppliersOf, writeSuppliers } from "./suppliers.ts";
export { ITEM, type ItemTableRow } from "./tables.ts";
export { loadUnits, UNITS, unitNamed, unitsFrom } from "./units.ts";
export { writeItems } from "./writing.ts";
