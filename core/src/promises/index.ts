export * from "./promise.ts";
export * from "./turn.ts";
