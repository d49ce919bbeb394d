export * from "./allocating.ts";
