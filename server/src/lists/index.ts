export { listAnswer } from "./answer.ts";
export { COST_COLUMNS, type CostRow, costRows, costsFrom, currentCosts } from "./costs.ts";
export { factsFor, factsOf, listOf, type NamedFacts } from "./facts.ts";
export { inForce, mainInForce, revisionsInForce, startsAfter } from "./inforce.ts";
export { LINE_COLUMNS, type LineRow, lineOf } from "./lines.ts";
export { type FullList, loadLists, loadRevisions } from "./lists.ts";
export { lockForBuild } from "./locking.ts";
export { listRoutes } from "./routes.ts";
export { copyList } from "./service.ts";
export type { RevisionRow } from "./tables.ts";
export {
  addRevisions,
  MAIN,
  mainListNames,
  namedLists,
  removeImported,
  removeList,
  removeLists,
  writeImported,
} from "./writing.ts";
