export * from "./routes.ts";
export * from "./service.ts";
