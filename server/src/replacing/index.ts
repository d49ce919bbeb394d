export { replacingRoutes } from "./routes.ts";
