export * from "./matching.ts";
export * from "./reading.ts";
