export * from "./papers.ts";
