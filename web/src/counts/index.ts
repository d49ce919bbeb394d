export { CountsPage } from "./countspage.tsx";
