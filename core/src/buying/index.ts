export * from "./offer.ts";
