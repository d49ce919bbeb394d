export { knownOf } from "./card.ts";
export * from "./routes.ts";
export { addedTo, contentsOf, insideOf, reworksOf, warrantiesOf } from "./unit.ts";
