export { ItemField } from "./itemfield.tsx";
export { NewItemContext, type NewItemDialogProps } from "./newitem.ts";
export { QuantityField } from "./quantityfield.tsx";
export { type ItemsQuery, useFirms, useItem, useItems, useStores, useUnits } from "./queries.ts";
export { RateField } from "./ratefield.tsx";
export { rateFrom } from "./rates.ts";
