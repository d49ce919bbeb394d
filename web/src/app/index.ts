export * from "./app.tsx";
