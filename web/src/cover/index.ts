export * from "./checkpage.tsx";
