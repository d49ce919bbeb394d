export { auditOrders } from "./audit.ts";
export * from "./routes.ts";
export * from "./rows.ts";
export * from "./service.ts";
