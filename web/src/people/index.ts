export * from "./personmenu.tsx";
export * from "./queries.ts";
export * from "./setuppage.tsx";
export * from "./working.tsx";
