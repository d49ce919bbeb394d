export * from "./costs.ts";
export * from "./items.ts";
export * from "./lists.ts";
export * from "./routes.ts";
export * from "./service.ts";
export * from "./stores.ts";
export * from "./units.ts";
