export { ReceiveDialog } from "./receivedialog.tsx";
export { StockPage } from "./stockpage.tsx";
export { Stores } from "./stores.tsx";
export { movedWords } from "./words.ts";
