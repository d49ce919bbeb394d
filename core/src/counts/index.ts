export * from "./counting.ts";
