export * from "./matching.ts";
export * from "./reading.ts";
export * from "./settling.ts";
