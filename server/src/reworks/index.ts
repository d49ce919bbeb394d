export { addPart } from "./parts.ts";
export * from "./routes.ts";
export { newRework } from "./service.ts";
export { addStep } from "./steps.ts";
