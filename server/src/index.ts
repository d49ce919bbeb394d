export * from "./app.ts";
export * from "./builds/index.ts";
export { findItems, type ItemQuery, whereUsed } from "./catalog/index.ts";
export * from "./db/index.ts";
export * from "./imports/index.ts";
export * from "./ledger/index.ts";
export * from "./people/index.ts";
export * from "./stock/index.ts";
