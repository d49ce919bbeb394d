export { findItems, type ItemQuery } from "./find.ts";
export { itemSheetRoutes } from "./routes.ts";
export { itemRows } from "./rows.ts";
export { whereUsed } from "./whereused.ts";
