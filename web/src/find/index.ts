export * from "./queries.ts";
export * from "./scanfield.tsx";
