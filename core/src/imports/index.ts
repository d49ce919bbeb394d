export * from "./gathering.ts";
export * from "./kits.ts";
export * from "./lists.ts";
export * from "./rows.ts";
