export * from "./buildspage.tsx";
export * from "./calendarpage.tsx";
export * from "./labelspage.tsx";
export * from "./repeatspage.tsx";
export * from "./severalpage.tsx";
