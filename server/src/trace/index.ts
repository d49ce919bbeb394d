export * from "./routes.ts";
export { trace } from "./trace.ts";
