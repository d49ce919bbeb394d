export * from "./today.ts";
