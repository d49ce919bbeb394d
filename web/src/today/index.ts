export { TodayPage } from "./todaypage.tsx";
