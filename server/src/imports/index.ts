export { readSheet } from "./read.ts";
export * from "./routes.ts";
export * from "./service.ts";
