export * from "./orders.ts";
