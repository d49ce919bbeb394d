export * from "./context.ts";
export type * from "./models.ts";
export { openDb } from "./open.ts";
export * from "./rates.ts";
export * from "./schema.ts";
export { asJson, firstOf, groupBy, together } from "./sql.ts";
export { WrongDatabase } from "./wrongdatabase.ts";
