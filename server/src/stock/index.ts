export { countsOf } from "./counting.ts";
export * from "./routes.ts";
export * from "./service.ts";
