export { RepeatsPage } from "./recurringpage.tsx";
