export { auditPurchases } from "./audit.ts";
export { buyDirect, type DirectNeed } from "./direct.ts";
export { buyNeeds, linkDraftLines } from "./needs.ts";
export { changeExpected, newPurchase } from "./ordering.ts";
export { findPurchases } from "./purchases.ts";
export { receiveDirect, receivePurchase, undoReceipt } from "./receiving.ts";
export { reorder } from "./reorder.ts";
export * from "./routes.ts";
export { sendPurchase } from "./sending.ts";
