export { ownFieldRoutes } from "./routes.ts";
export { copyOwnValues, ownValues, ownValuesByCode } from "./service.ts";
