import { IMPORT_COLUMNS, IMPORT_NAMES, type ImportFile, LARGEST_FILE, Refusal } from "@yosegi/contract";
import { CsvError, parse } from "csv-parse/sync";
import type { z } from "zod";

/** A problem with one field of a row, in words. `row` counts as a spreadsheet does: the header is row 1. */
export interface RowProblem {
  row: number;
  field: string;
  value: string;
  message: string;
}

export interface ReadFile<Row> {
  rows: number;
  /** Rows whose fields are in order by themselves, with their number. */
  good: (Row & { row: number })[];
  problems: RowProblem[];
  /** Raw rows that have a problem, so that what hangs together with them can be held back. */
  bad: Record<string, string>[];
}

/** Reads a CSV file (RFC 4180, UTF-8, header) and checks each row by its schema. Refuses what is no such file at all. */
export function readFile<S extends z.ZodType>(
  kind: ImportFile,
  text: string,
  schema: S,
): ReadFile<z.output<S>> {
  if (Buffer.byteLength(text) > LARGEST_FILE)
    throw Refusal.at(kind, "file-too-large", {
      size: (Buffer.byteLength(text) / 1e6).toFixed(1),
      limit: LARGEST_FILE / 1e6,
    });
  const [header = [], ...records] = parseCsv(kind, text);
  const columns = header.map((column) => column.trim().toLowerCase());
  checkHeader(kind, columns);
  const read: ReadFile<z.output<S>> = { rows: records.length, good: [], problems: [], bad: [] };
  for (const [index, record] of records.entries()) {
    const row = index + 2;
    const values = Object.fromEntries(columns.map((column, i) => [column, record[i]?.trim() ?? ""]));
    const problems =
      record.length > columns.length
        ? [tooMany(row, columns, record)]
        : check(row, values, schema, read.good);
    if (problems.length === 0) continue;
    read.problems.push(...problems);
    read.bad.push(values);
  }
  return read;
}

function parseCsv(kind: ImportFile, text: string): string[][] {
  try {
    return parse(text, { bom: true, relax_column_count: true, skip_empty_lines: true });
  } catch (error) {
    if (!(error instanceof CsvError)) throw error;
    throw Refusal.at(kind, "file-shape", { why: error.message });
  }
}

function checkHeader(kind: ImportFile, columns: readonly string[]): void {
  const wanted = IMPORT_COLUMNS[kind];
  const missing = wanted.filter((column) => !columns.includes(column));
  const unknown = columns.filter((column, i) => !wanted.includes(column) || columns.indexOf(column) !== i);
  if (missing.length === 0 && unknown.length === 0) return;
  const list = (names: readonly string[]) =>
    names.length === 0 ? "none" : names.map((n) => n.slice(0, 40)).join(", ");
  throw Refusal.at(kind, "file-header", {
    file: IMPORT_NAMES[kind],
    missing: list(missing),
    unknown: list(unknown.slice(0, 10)),
    wanted: wanted.join(","),
  });
}

function tooMany(row: number, columns: readonly string[], record: readonly string[]): RowProblem {
  const message = `This row has ${record.length} fields, the header ${columns.length}. A comma inside a field needs quotes around it.`;
  return { row, field: columns.at(-1) ?? "", value: record.slice(columns.length).join(","), message };
}

function check<S extends z.ZodType>(
  row: number,
  values: Record<string, string>,
  schema: S,
  good: (z.output<S> & { row: number })[],
): RowProblem[] {
  const parsed = schema.safeParse(values);
  if (parsed.success) {
    good.push({ ...(parsed.data as object), row } as z.output<S> & { row: number });
    return [];
  }
  return parsed.error.issues.map((issue) => {
    const field = String(issue.path[0] ?? "");
    return { row, field, value: values[field] ?? "", message: issueText(issue) };
  });
}

/** Of a union (empty or a number) the branch that was meant speaks. */
function issueText(issue: z.core.$ZodIssue): string {
  if (issue.code !== "invalid_union") return issue.message;
  const meant = issue.errors.at(-1)?.[0];
  return meant ? issueText(meant) : issue.message;
}
