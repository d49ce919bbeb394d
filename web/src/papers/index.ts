export { PaperSettings } from "./papersettings.tsx";
