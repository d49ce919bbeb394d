export * from "./routes.ts";
export { today } from "./today.ts";
