export * from "./days.ts";
export * from "./decimal.ts";
export * from "./numbers.ts";
export * from "./split.ts";
export * from "./units.ts";
export * from "./whole.ts";
