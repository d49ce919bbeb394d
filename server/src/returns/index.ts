export { auditReturns } from "./audit.ts";
export { noteDecision, openReturnLine, undoDecision } from "./deciding.ts";
export * from "./routes.ts";
export { newReturn } from "./service.ts";
