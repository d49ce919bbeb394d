/** Whether what is pasted is rows of a spreadsheet, and not one value for the field that it is pasted into. */
export const isPastedTable = (text: string): boolean => text.includes("\t") || /[\r\n]/.test(text.trimEnd());

/** The rows and cells of what is copied from a spreadsheet; the reader is loaded when something is pasted. */
export async function pastedTable(text: string): Promise<string[][]> {
  const { parse } = await import("csv-parse/browser/esm/sync");
  return parse(text, {
    delimiter: "\t",
    relax_column_count: true,
    relax_quotes: true,
    skip_empty_lines: true,
    trim: true,
  });
}
