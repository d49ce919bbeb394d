export { TakeApartDialog } from "./dialog.tsx";
export { TakeApartsPage } from "./page.tsx";
