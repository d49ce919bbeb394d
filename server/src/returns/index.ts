export { auditReturns } from "./audit.ts";
export * from "./routes.ts";
