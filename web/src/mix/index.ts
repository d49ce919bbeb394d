export { MixDialog } from "./mixdialog.tsx";
