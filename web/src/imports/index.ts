export * from "./importpage.tsx";
