export { findItems, type ItemQuery } from "./find.ts";
export { removeItem } from "./removing.ts";
export { itemSheetRoutes } from "./routes.ts";
export { itemRows } from "./rows.ts";
export { setState } from "./several.ts";
export { whereUsed } from "./whereused.ts";
