export { FirmField } from "./firmfield.tsx";
export { ItemField } from "./itemfield.tsx";
export { NewFirmContext, type NewFirmDialogProps } from "./newfirm.ts";
export { NewItemContext, type NewItemDialogProps } from "./newitem.ts";
export { QuantityField } from "./quantityfield.tsx";
export { type ItemsQuery, useItem, useItems, useStores, useUnits } from "./queries.ts";
export { RateField } from "./ratefield.tsx";
export { rateFrom } from "./rates.ts";
export { StoreField } from "./storefield.tsx";
