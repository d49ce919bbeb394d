export * from "./queries.ts";
export * from "./scanfield.tsx";
export { ScanGun } from "./scangunlater.tsx";
