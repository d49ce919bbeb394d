export * from "./finish.ts";
export * from "./routes.ts";
export * from "./rows.ts";
export * from "./service.ts";
export * from "./steps.ts";
