export * from "./orders.ts";
export * from "./tax.ts";
