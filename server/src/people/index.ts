export { checkPerson, personNames } from "./names.ts";
export * from "./routes.ts";
export * from "./service.ts";
