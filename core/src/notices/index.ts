export * from "./notices.ts";
