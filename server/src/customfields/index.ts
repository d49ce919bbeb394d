export { customFieldRoutes } from "./routes.ts";
export { copyCustomValues, customValues, customValuesByCode, removeCustomValues } from "./service.ts";
