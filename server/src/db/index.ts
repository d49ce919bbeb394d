export * from "./context.ts";
export type * from "./models.ts";
export { openDb } from "./open.ts";
export { asJson, groupBy, together } from "./sql.ts";
