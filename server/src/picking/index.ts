export { pickCounts } from "./documents.ts";
export { fetchPick } from "./fetch.ts";
export * from "./routes.ts";
export { roundSheet } from "./sheet.ts";
