export * from "./audit.ts";
export * from "./books.ts";
export * from "./bounds.ts";
export * from "./figures.ts";
export * from "./locations.ts";
export * from "./record.ts";
export { serialsElsewhere } from "./serials.ts";
export { sourcesBy } from "./sources.ts";
export * from "./stores.ts";
