export * from "./mix.ts";
export * from "./solve.ts";
