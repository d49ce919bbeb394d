export { auditReturns } from "./audit.ts";
export * from "./routes.ts";
export { newReturn } from "./service.ts";
export { noteTakenApart, openReturnLine, undoTakenApart } from "./takingapart.ts";
