export { messageRoutes } from "./routes.ts";
