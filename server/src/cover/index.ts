export { offerOf } from "./facts.ts";
export * from "./routes.ts";
export { coverOf } from "./service.ts";
