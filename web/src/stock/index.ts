export * from "./stockpage.tsx";
