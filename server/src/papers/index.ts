export * from "./papers.ts";
export * from "./routes.ts";
export { type PaperStyle, paperStyle } from "./settings.ts";
