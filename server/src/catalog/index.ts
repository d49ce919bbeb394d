export * from "./costs.ts";
export * from "./facts.ts";
export * from "./groups.ts";
export * from "./items.ts";
export * from "./kits.ts";
export { writeKit } from "./kitservice.ts";
export * from "./known.ts";
export { placeAndPersonNames } from "./listanswer.ts";
export * from "./lists.ts";
export {
  addRevision,
  lockForBuild,
  MAIN,
  namedList,
  revisionInForce,
  writeDraft,
} from "./listservice.ts";
export * from "./pricing.ts";
export { refuseProblems } from "./refuse.ts";
export * from "./routes.ts";
export * from "./service.ts";
export * from "./stores.ts";
export * from "./suppliers.ts";
export * from "./units.ts";
export { whereUsed } from "./whereused.ts";
