export { SupplierReturnDialog } from "./dialog.tsx";
export { SupplierReturnsPage } from "./page.tsx";
