export { countNext } from "./next.ts";
export * from "./routes.ts";
