export * from "./checking.ts";
export * from "./kit.ts";
export * from "./sets.ts";
