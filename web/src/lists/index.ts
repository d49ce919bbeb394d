import { lazy } from "react";

export { CompareView } from "./compareview.tsx";
export { ListsView } from "./listsview.tsx";
export { PartsListTable } from "./listtable.tsx";

/** Loaded when a list is written: nothing else drags. */
export const ListEditorPage = lazy(async () => ({
  default: (await import("./listeditor.tsx")).ListEditorPage,
}));
