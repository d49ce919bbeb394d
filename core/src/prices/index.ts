export * from "./margin.ts";
export * from "./pricelists.ts";
