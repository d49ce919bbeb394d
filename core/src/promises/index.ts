export * from "./needs.ts";
export * from "./promise.ts";
export * from "./turn.ts";
