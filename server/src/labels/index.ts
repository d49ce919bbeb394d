export { codeSvg, fitsCode128 } from "./code.ts";
export * from "./routes.ts";
export * from "./service.ts";
