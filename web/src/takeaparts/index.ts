export { TakeApartDialog } from "./dialog.tsx";
export { TakeApartsPage } from "./page.tsx";
export { TakeApartWays } from "./ways.tsx";
