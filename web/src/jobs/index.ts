export * from "./progress.tsx";
