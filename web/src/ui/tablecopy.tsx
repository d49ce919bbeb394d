import { Download } from "lucide-react";
import type { KeyboardEvent } from "react";
import { useFormat } from "./format.ts";
import { MenuButton } from "./menu.tsx";
import { copyRows, type SpreadsheetOf, saveRows } from "./sheetcopy.ts";
import { sayDone, sayFailed } from "./toast.tsx";

/** The ways out of a table into a spreadsheet: a menu, and Ctrl+C where nothing else is marked. Null for a table that has none. */
export function useCopying<Row>(sheet: SpreadsheetOf<Row> | undefined, meant: () => Row[], label: string) {
  const format = useFormat();
  if (!sheet) return null;
  const done = async (work: Promise<void>, words: string) => {
    try {
      await work;
      sayDone(words);
    } catch (error) {
      sayFailed(error instanceof Error ? error.message : String(error));
    }
  };
  const counted = (rows: readonly Row[]) => format.count(rows.length, "row", "rows");
  const copy = () => {
    const rows = meant();
    void done(copyRows(sheet, rows, format.marks), `${counted(rows)} copied.`);
  };
  const save = () => {
    const rows = meant();
    void done(saveRows(sheet, rows, format.marks), `${counted(rows)} saved as ${sheet.name}.csv.`);
  };
  const words = `Copy or save ${label.toLowerCase()}`;
  return {
    onKeyDown: (event: KeyboardEvent) => {
      const isCopy = event.key.toLowerCase() === "c" && (event.ctrlKey || event.metaKey);
      if (!isCopy || event.target instanceof HTMLInputElement) return;
      if (document.getSelection()?.isCollapsed === false) return;
      event.preventDefault();
      copy();
    },
    menu: (
      <MenuButton
        look="icon"
        label={words}
        items={[
          { id: "copy", label: "Copy for a spreadsheet", onAction: copy },
          { id: "save", label: "Save as CSV", onAction: save },
        ]}
      >
        <Download />
      </MenuButton>
    ),
  };
}
