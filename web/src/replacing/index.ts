export { ReplacePage } from "./replacepage.tsx";
