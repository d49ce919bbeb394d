export { Job } from "./jobs.ts";
export * from "./routes.ts";
export * from "./service.ts";
