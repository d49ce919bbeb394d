import type { ReactNode } from "react";
import { Unanswered } from "../api/index.ts";
import { useItem } from "../fields/index.ts";
import { KitEditor } from "../kits/index.ts";
import { CompareView, ListEditorPage, ListsView } from "../lists/index.ts";
import { ItemSheetView } from "./itemsheet.tsx";

export type SheetView = "item" | "list" | "lists" | "kit" | "compare";

export function OpenItem({ id, view }: { id: number; view: SheetView }): ReactNode {
  const { data, error } = useItem(id);
  if (!data) return <Unanswered error={error} />;
  switch (view) {
    case "list":
      return <ListEditorPage item={data} />;
    case "lists":
      return <ListsView item={data} />;
    case "compare":
      return <CompareView item={data} />;
    case "kit":
      return <KitEditor item={data} />;
    case "item":
      return <ItemSheetView item={data} />;
  }
}
