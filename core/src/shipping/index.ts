export * from "./leaving.ts";
export * from "./revenue.ts";
