export * from "./errors.ts";
export * from "./serve.ts";
