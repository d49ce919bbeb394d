export * from "./margin.ts";
