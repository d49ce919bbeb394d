export * from "./check.ts";
export * from "./reach.ts";
