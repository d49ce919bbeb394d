export { PackPage } from "./packpage.tsx";
export { PicksPage } from "./pickspage.tsx";
export { usePacked } from "./queries.ts";
export { RoundPage } from "./roundpage.tsx";
