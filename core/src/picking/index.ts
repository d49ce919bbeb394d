export * from "./documents.ts";
export * from "./holds.ts";
