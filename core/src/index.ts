export * from "./amounts/index.ts";
export * from "./builds/index.ts";
export * from "./buying/index.ts";
export * from "./catalog/index.ts";
export * from "./cover/index.ts";
export * from "./orders/index.ts";
export * from "./problems.ts";
export * from "./stock/index.ts";
