export * from "./allocations.ts";
export * from "./links.ts";
