export { COMPANY, type CompanyRow } from "./company.ts";
export * from "./context.ts";
export { openDb } from "./open.ts";
export * from "./paging.ts";
export * from "./rates.ts";
export * from "./schema.ts";
export { asJson, firstOf, groupBy, settleAll } from "./sql.ts";
export * from "./table.ts";
export { WrongDatabase } from "./wrongdatabase.ts";
