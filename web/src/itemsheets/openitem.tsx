import { type ReactNode, Suspense } from "react";
import { Unanswered } from "../api/index.ts";
import { useItem } from "../fields/index.ts";
import { KitEditor } from "../kits/index.ts";
import { CompareView, ListEditorPage, ListsView } from "../lists/index.ts";
import { useTitle } from "../ui/index.ts";
import { ItemSheetView } from "./itemsheet.tsx";

export type SheetView = "item" | "list" | "lists" | "kit" | "compare";

export function OpenItem({ id, view }: { id: number; view: SheetView }): ReactNode {
  const { data, error } = useItem(id);
  useTitle(data?.code ?? "");
  if (!data) return <Unanswered error={error} shape="sheet" />;
  switch (view) {
    case "list":
      return (
        <Suspense fallback={<Unanswered error={null} />}>
          <ListEditorPage item={data} />
        </Suspense>
      );
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
