export * from "./routes.ts";
export * from "./service.ts";
export * from "./standing.ts";
