export * from "./errors.ts";
export * from "./serve.ts";
export * from "./tables.ts";
