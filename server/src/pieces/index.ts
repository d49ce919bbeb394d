export { knownOf } from "./card.ts";
export * from "./routes.ts";
