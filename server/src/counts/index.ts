export * from "./routes.ts";
export { refuseCounting } from "./sheet.ts";
