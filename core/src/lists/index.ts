export * from "./checking.ts";
export * from "./cost.ts";
export * from "./ownparts.ts";
export * from "./partslist.ts";
export * from "./replacing.ts";
export * from "./revision.ts";
