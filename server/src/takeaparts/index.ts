export { recoveryBy } from "./plan.ts";
export * from "./routes.ts";
