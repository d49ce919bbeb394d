export * from "./catalogpage.tsx";
export * from "./itemfield.tsx";
export * from "./queries.ts";
