export { recoveryBy } from "./plan.ts";
export * from "./routes.ts";
export { newTakeApart } from "./service.ts";
export { takeApartSheet } from "./sheet.ts";
