export * from "./serving.ts";
