export * from "./recurring.ts";
