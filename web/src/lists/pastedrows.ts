import { type DrawnAt, type NumberMarks, parseNumber } from "@yosegi/core";
import {
  choosePart,
  type DraftLine,
  type DraftList,
  type DraftPart,
  emptyLine,
  isEmpty,
  nextKey,
} from "./listdraft.ts";

/** A row of a spreadsheet as it is pasted: code or name, quantity, unit, waste. */
export interface PastedRow {
  code: string;
  quantity: string;
  unit: string;
  waste: string;
}

/** The parts that pasted cells name. */
export function pastedRows(rows: readonly string[][], marks: NumberMarks): PastedRow[] {
  // Text that is no number stays as it is, to be refused at its field.
  const number = (cell: string) => (cell === "" ? "" : (parseNumber(cell.replace(/%$/, ""), marks) ?? cell));
  return rows
    .filter(([code = ""]) => code !== "")
    .map(([code = "", quantity = "", unit = "", waste = ""]) => ({
      code,
      unit,
      quantity: number(quantity),
      waste: waste === "" ? "0" : number(waste),
    }));
}

/** Puts pasted rows in the place of the line where they were pasted, and after it. */
export function insertRows(
  draft: DraftList,
  at: number,
  rows: readonly PastedRow[],
  found: readonly ((DraftPart & { drawnAt?: DrawnAt }) | null)[],
): DraftList {
  let key = nextKey(draft.lines);
  const fresh = rows.map((row, i): DraftLine => {
    const part = found[i] ?? null;
    return {
      ...emptyLine(key++),
      ...choosePart(part),
      ...(!part && { pasted: row.code }),
      ...(row.unit !== "" && { unit: row.unit }),
      quantity: row.quantity,
      waste: row.waste,
    };
  });
  const line = draft.lines[at];
  const lines = [...draft.lines];
  lines.splice(at, line && isEmpty(line) ? 1 : 0, ...fresh);
  return { ...draft, lines };
}
