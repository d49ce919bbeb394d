export * from "./context.ts";
export type * from "./models.ts";
export { asJson } from "./sql.ts";
