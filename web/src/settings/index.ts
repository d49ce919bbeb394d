export * from "./settingspage.tsx";
