export { priceRoutes } from "./routes.ts";
