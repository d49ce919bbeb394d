export { auditShipments } from "./audit.ts";
export { customerPdf, totalLines } from "./customerpaper.ts";
export { addressee, sendPapers } from "./papers.ts";
export { countedOf, leftOf, soldAs } from "./plan.ts";
export * from "./routes.ts";
export { shipOrder } from "./ship.ts";
export { shippingViews } from "./views.ts";
