export * from "./dates.ts";
