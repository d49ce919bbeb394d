export { CompareView } from "./compareview.tsx";
export { ListEditorPage } from "./listeditor.tsx";
export { ListsView } from "./listsview.tsx";
export { PartsListTable } from "./listtable.tsx";
