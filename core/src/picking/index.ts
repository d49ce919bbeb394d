export * from "./documents.ts";
export * from "./holds.ts";
export * from "./packscan.ts";
export * from "./scanning.ts";
export * from "./waiting.ts";
