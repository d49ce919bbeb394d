export * from "./paying.ts";
export * from "./stages.ts";
export * from "./values.ts";
