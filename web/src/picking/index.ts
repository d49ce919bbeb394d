export { PicksPage } from "./pickspage.tsx";
export { RoundPage } from "./roundpage.tsx";
