export { codeSvg } from "./code.ts";
export { binCell, itemCell } from "./coded.ts";
export * from "./routes.ts";
export * from "./service.ts";
