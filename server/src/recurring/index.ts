export { makeRecurring, writeRecurring } from "./recurring.ts";
export { recurringRoutes } from "./routes.ts";
export { setStockTarget, stockTargets } from "./targets.ts";
