export * from "./firmspage.tsx";
