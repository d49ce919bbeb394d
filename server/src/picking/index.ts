export { pickCounts } from "./documents.ts";
export { fetchPick } from "./fetch.ts";
export { startRound } from "./rounds.ts";
export * from "./routes.ts";
export { roundSheet } from "./sheet.ts";
