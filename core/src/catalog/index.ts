export * from "./choosing.ts";
export * from "./cost.ts";
export * from "./importing.ts";
export * from "./item.ts";
export * from "./partslist.ts";
