export * from "./credit.ts";
export * from "./entering.ts";
export * from "./missing.ts";
