export * from "./buildspage.tsx";
export * from "./calendarpage.tsx";
export * from "./severalpage.tsx";
