export { auditShipments } from "./audit.ts";
export * from "./routes.ts";
export { shipOrder } from "./ship.ts";
export { shippingViews } from "./views.ts";
