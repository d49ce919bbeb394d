import { stringify } from "csv-stringify/sync";
import writeXlsx from "write-excel-file/node";
import type { Bytes } from "./serve.ts";

const XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";
const NUMBER = /^-?\d+(\.\d+)?$/;

export interface TableColumn {
  name: string;
  /** Its cells are figures, which a spreadsheet may add up. */
  figures?: boolean;
}

/** A table as a spreadsheet file. Text that a spreadsheet would take for a formula is quoted for it; figures are not. */
export async function tableBytes(
  name: string,
  columns: readonly TableColumn[],
  rows: readonly (readonly string[])[],
  format: "csv" | "xlsx",
): Promise<Bytes> {
  const base = { name: `${name}.${format}`, forever: false };
  const isFigure = (value: string, column: number) => columns[column]?.figures === true && NUMBER.test(value);
  if (format === "csv") {
    const text = stringify([columns.map((column) => column.name), ...rows.map((row) => [...row])], {
      record_delimiter: "windows",
      cast: {
        string: (value, { index }) => ({ value, escape_formulas: !isFigure(value, index) }),
      },
    });
    return { ...base, type: "text/csv; charset=utf-8", content: Buffer.from(`\ufeff${text}`) };
  }
  const header = columns.map((column) => ({ value: column.name, fontWeight: "bold" as const }));
  const cells = rows.map((row) =>
    row.map((value, column) =>
      isFigure(value, column) ? { value: Number(value), type: Number } : { value, type: String },
    ),
  );
  const content = await writeXlsx([header, ...cells], { stickyRowsCount: 1 }).toBuffer();
  return { ...base, type: XLSX, content };
}
