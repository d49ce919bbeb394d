export * from "./checking.ts";
export * from "./choosing.ts";
export * from "./item.ts";
export * from "./packs.ts";
export * from "./suppliers.ts";
