export * from "./jobs.ts";
export * from "./routes.ts";
