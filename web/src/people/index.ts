export * from "./companysettings.tsx";
export * from "./personfilter.tsx";
export * from "./personmenu.tsx";
export * from "./queries.ts";
export { SetUpPage } from "./setuplater.tsx";
export * from "./whopage.tsx";
export * from "./working.tsx";
