export * from "./bench.ts";
export * from "./finish.ts";
export * from "./routes.ts";
export * from "./rows.ts";
export * from "./service.ts";
export * from "./splitting.ts";
export * from "./steps.ts";
export * from "./undoing.ts";
