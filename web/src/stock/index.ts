export { ReceiveDialog } from "./receivedialog.tsx";
export { StockPage } from "./stockpage.tsx";
export { movedWords } from "./words.ts";
