export { ownFieldRoutes } from "./routes.ts";
export { copyOwnValues, ownValues, ownValuesByCode, removeCustomValues } from "./service.ts";
