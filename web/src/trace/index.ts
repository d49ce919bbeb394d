export { TracePage } from "./tracepage.tsx";
