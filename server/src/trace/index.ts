export * from "./routes.ts";
export { traceSteps } from "./trace.ts";
