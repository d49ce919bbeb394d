export { CountDialog, type CountedSpot } from "./countdialog.tsx";
export { CountFields, type CountValues, countOf } from "./countfields.tsx";
export { MoveDialog, ScrapDialog } from "./movedialog.tsx";
export { PlacesPage } from "./placespage.tsx";
export { ReceiveDialog } from "./receivedialog.tsx";
export { StockPage } from "./stockpage.tsx";
export { Stores } from "./stores.tsx";
export { movedWords } from "./words.ts";
