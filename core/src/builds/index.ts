export * from "./buildline.ts";
export * from "./costsheet.ts";
export * from "./finishing.ts";
export * from "./handingout.ts";
export * from "./stages.ts";
export * from "./state.ts";
