export { ReturnDialog } from "./returndialog.tsx";
export { ReturnsPage } from "./returnspage.tsx";
