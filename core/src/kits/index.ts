export * from "./changing.ts";
export * from "./checking.ts";
export * from "./kit.ts";
export * from "./sets.ts";
