export { knownOf } from "./card.ts";
export * from "./routes.ts";
export { contentsOf, insideOf, reworksOf, warrantiesOf } from "./unit.ts";
