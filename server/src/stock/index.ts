export { countsOf } from "./counting.ts";
export { checkLines } from "./moving.ts";
export { stockPlaces } from "./places.ts";
export * from "./routes.ts";
export * from "./service.ts";
export { refuseTracking } from "./tracking.ts";
