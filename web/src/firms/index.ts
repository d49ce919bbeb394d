export { NewFirmDialog } from "./firmform.tsx";
export * from "./firmspage.tsx";
