import type { NumberMarks } from "@yosegi/core";

/** What a row of a table is in a spreadsheet: the columns there, each with its heading and plain value. */
export interface SpreadsheetOf<Row> {
  /** The file's name, without its ending. */
  name: string;
  columns: readonly {
    header: string;
    /** Exact decimal text for a figure, an ISO day for a day. */
    value: (row: Row) => string;
  }[];
}

const FIGURE = /^-?\d+(\.\d+)?$/;

/** Rows as a spreadsheet of the person's language reads them: its decimal mark, its delimiter; no text becomes a formula. */
async function written<Row>(
  { columns }: SpreadsheetOf<Row>,
  rows: readonly Row[],
  marks: NumberMarks,
  delimiter: string,
): Promise<string> {
  const { stringify } = await import("csv-stringify/browser/esm/sync");
  const figure = (value: string) => (FIGURE.test(value) ? value.replace(".", marks.decimal) : value);
  return stringify(
    [
      columns.map((column) => column.header),
      ...rows.map((row) => columns.map(({ value }) => figure(value(row)))),
    ],
    {
      delimiter,
      record_delimiter: "windows",
      cast: { string: (value) => ({ value, escape_formulas: !/^-?[\d.,]+$/.test(value) }) },
    },
  );
}

/** Puts rows on the clipboard, for a spreadsheet. */
export async function copyRows<Row>(
  sheet: SpreadsheetOf<Row>,
  rows: readonly Row[],
  marks: NumberMarks,
): Promise<void> {
  const text = await written(sheet, rows, marks, "\t");
  if (navigator.clipboard) return navigator.clipboard.writeText(text);
  // A page that came over plain HTTP, as in most shops, has no clipboard of its own.
  const put = (event: ClipboardEvent) => {
    event.clipboardData?.setData("text/plain", text);
    event.preventDefault();
  };
  document.addEventListener("copy", put, { once: true });
  const isCopied = document.execCommand("copy");
  document.removeEventListener("copy", put);
  if (!isCopied) throw new Error("The browser did not allow copying.");
}

/** Saves rows as a CSV file. */
export async function saveRows<Row>(
  sheet: SpreadsheetOf<Row>,
  rows: readonly Row[],
  marks: NumberMarks,
): Promise<void> {
  const text = await written(sheet, rows, marks, marks.decimal === "," ? ";" : ",");
  const address = URL.createObjectURL(new Blob([`\ufeff${text}`], { type: "text/csv" }));
  const link = document.createElement("a");
  link.href = address;
  link.download = `${sheet.name}.csv`;
  link.click();
  URL.revokeObjectURL(address);
}
