export * from "./expected.ts";
export * from "./lots.ts";
export * from "./recovery.ts";
export * from "./shortage.ts";
