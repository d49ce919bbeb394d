export * from "./offer.ts";
export * from "./reorder.ts";
