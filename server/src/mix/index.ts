export { mixRoutes } from "./routes.ts";
