export { auditShipments } from "./audit.ts";
export * from "./routes.ts";
export { shippingViews } from "./views.ts";
