export * from "./routes.ts";
