export * from "./check.ts";
export * from "./reach.ts";
export * from "./sets.ts";
export * from "./waiting.ts";
