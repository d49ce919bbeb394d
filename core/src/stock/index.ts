export * from "./importing.ts";
export * from "./numbering.ts";
export * from "./posting.ts";
export * from "./taking.ts";
