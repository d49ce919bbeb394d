export { draftsOf, type ItemFacts, loadFactsBelow, type OfferRow, offerOf } from "./facts.ts";
export { type LoadedQuestion, readQuestion } from "./question.ts";
export * from "./routes.ts";
export { coverOf, draftsAnswer } from "./service.ts";
