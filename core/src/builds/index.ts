export * from "./finishing.ts";
export * from "./stages.ts";
