export * from "./check.ts";
export * from "./cover.ts";
export * from "./demand.ts";
export * from "./projection.ts";
export * from "./reach.ts";
export * from "./timeline.ts";
export * from "./waiting.ts";
