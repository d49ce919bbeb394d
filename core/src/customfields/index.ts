export * from "./customfields.ts";
