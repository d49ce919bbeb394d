export * from "./buildspage.tsx";
