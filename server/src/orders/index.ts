export { auditOrders } from "./audit.ts";
export { findOrders, orderCounts } from "./list.ts";
export { previewOrder } from "./preview.ts";
export * from "./routes.ts";
export * from "./rows.ts";
export * from "./service.ts";
export { orderSheet } from "./sheet.ts";
