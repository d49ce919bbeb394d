export { RecurringPage } from "./recurringpage.tsx";
