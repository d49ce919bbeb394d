export { pickCounts } from "./documents.ts";
export * from "./routes.ts";
