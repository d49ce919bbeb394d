import {
  IMPORT_COLUMNS,
  type ImportFile,
  type ImportKind,
  LARGEST_FILE,
  messageOf,
  NEEDED_COLUMNS,
  NUMBER_COLUMNS,
  Refusal,
} from "@yosegi/contract";
import {
  type Cells,
  type DecimalMark,
  type FileNumbers,
  fileNumbers,
  marksOf,
  parseNumber,
} from "@yosegi/core";
import { CsvError, parse } from "csv-parse/sync";
import type { z } from "zod";
import type { Job } from "../jobs/index.ts";
import { readWorkbook } from "./spreadsheet.ts";

/** A problem with one field of a row, in words. `row` counts as a spreadsheet does: the header is row 1. */
export interface RowProblem {
  row: number;
  field: string;
  value: string;
  message: string;
}

/** A file as text cells under our columns. */
export interface Table {
  kind: ImportKind;
  /** The file's own columns, and which of ours each is read as. */
  theirs: string[];
  columns: Record<string, string>;
  /** Needed columns that were not found; while there are any, no row is read. */
  missing: string[];
  rows: { row: number; cells: Cells }[];
  problems: RowProblem[];
  /** How its numbers are written; while that is unclear, no row is read. */
  numbers: FileNumbers;
}

/** The cells of a file, and what tells how its numbers are written. */
interface Sheet {
  rows: string[][];
  workbook?: boolean;
  /** Commas part its fields. */
  commas?: boolean;
}

/** The cells of a CSV file (UTF-8; comma, semicolon or tab) or of the first sheet of an XLSX file; refused at `field`. */
export async function readSheet(field: string, content: Buffer): Promise<Sheet> {
  const isZip = content.subarray(0, 4).equals(Buffer.from("PK\x03\x04", "latin1"));
  return isZip ? { rows: await readWorkbook(field, content), workbook: true } : readCsv(field, content);
}

/** Reads a file with a header. */
export async function readTable(file: ImportFile, remembered: Matches = {}): Promise<Table> {
  const content = Buffer.from(file.content, "base64");
  if (content.length > LARGEST_FILE)
    throw Refusal.at(file.kind, "file-too-large", {
      size: (content.length / 1e6).toFixed(1),
      limit: LARGEST_FILE / 1e6,
    });
  const sheet = await readSheet(file.kind, content);
  const [header = [], ...records] = sheet.rows;
  const theirs = header.map((column) => column.trim()).filter(Boolean);
  const columns = match(file.kind, theirs, { ...known(file.kind, theirs, remembered), ...file.columns });
  const found = new Set(Object.values(columns));
  const missing = NEEDED_COLUMNS[file.kind].filter((column) => !found.has(column));
  const table: Table = {
    kind: file.kind,
    theirs,
    columns,
    missing,
    rows: [],
    problems: [],
    numbers: { decimal: null },
  };
  if (missing.length > 0) return table;
  for (const [i, record] of records.entries()) {
    if (record.every((cell) => cell.trim() === "")) continue;
    const row = i + 2;
    if (record.slice(header.length).some((cell) => cell.trim() !== "")) {
      const message = `This row has ${record.length} fields, the header ${header.length}. A comma inside a field needs quotes around it.`;
      table.problems.push({
        row,
        field: header.at(-1) ?? "",
        message,
        value: record.slice(header.length).join(","),
      });
      continue;
    }
    const cells: Cells = {};
    for (const [at, column] of header.entries()) {
      const ours = Object.hasOwn(columns, column.trim()) ? columns[column.trim()] : undefined;
      if (ours) cells[ours] = record[at]?.trim() ?? "";
    }
    table.rows.push({ row, cells });
  }
  const numbers = numbersOf(file, sheet, numberCells(table.rows));
  if (numbers.decimal === null) return { ...table, numbers };
  if (numbers.decimal !== "unclear")
    return { ...table, numbers, rows: plainNumbers(table.rows, numbers.decimal) };
  const message = messageOf("numbers-unclear", { example: numbers.example });
  return { ...table, numbers, rows: [], problems: [{ row: 1, field: "", value: numbers.example, message }] };
}

/** Our column by theirs. */
export type Matches = Readonly<Record<string, string>>;

const plain = (name: string) => name.toLowerCase().replace(/[^\p{L}\p{N}]/gu, "");

/** Matches that were made by hand before and fit this file: not where another of its columns has the very name. */
function known(kind: ImportKind, theirs: readonly string[], remembered: Matches): Matches {
  const names = new Set(theirs.map(plain));
  return Object.fromEntries(
    Object.entries(remembered).filter(
      ([column, ours]) =>
        theirs.includes(column) &&
        (ours === "" || (IMPORT_COLUMNS[kind].includes(ours) && !names.has(plain(ours)))),
    ),
  );
}

/** Which of our columns each of theirs is: as the person says, else by its name, whatever its case and marks. */
function match(kind: ImportKind, theirs: readonly string[], byHand: Matches): Record<string, string> {
  const ours = new Map(IMPORT_COLUMNS[kind].map((column) => [plain(column), column]));
  const taken = new Set<string>();
  // A column may be called anything, "constructor" too.
  const columns: Record<string, string> = Object.create(null);
  const assign = (column: string, own: string | undefined) => {
    if (own === undefined || taken.has(own) || column in columns) return;
    columns[column] = own;
    taken.add(own);
  };
  for (const column of theirs)
    if (Object.hasOwn(byHand, column)) assign(column, ours.get(plain(byHand[column] ?? "")));
  for (const column of theirs) if (!Object.hasOwn(byHand, column)) assign(column, ours.get(plain(column)));
  return columns;
}

function readCsv(field: string, content: Buffer): Sheet {
  const text = utf8(field, content);
  const [line = ""] = text.split(/\r?\n/, 1);
  const delimiter = [";", "\t"].find((mark) => line.includes(mark) && !line.includes(",")) ?? ",";
  try {
    const rows: string[][] = parse(text, { bom: true, relax_column_count: true, delimiter }).map(unquoted);
    return { rows, commas: delimiter === "," };
  } catch (error) {
    if (!(error instanceof CsvError)) throw error;
    throw Refusal.at(field, "file-shape", { why: error.message });
  }
}

/** An apostrophe before what a spreadsheet would take for a formula is its way to say that it is text. */
const unquoted = (row: string[]): string[] => row.map((cell) => cell.replace(/^'(?=[=+\-@\t\r])/, ""));

function utf8(field: string, content: Buffer): string {
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(content);
  } catch (error) {
    if (!(error instanceof TypeError)) throw error;
    throw Refusal.at(field, "file-encoding");
  }
}

/** How a file writes its numbers, as its person says or as they tell themselves. */
function numbersOf(
  file: ImportFile,
  { workbook = false, commas = false }: Sheet,
  cells: Iterable<string>,
): FileNumbers {
  if (file.decimal !== null) return { decimal: file.decimal };
  // A workbook keeps numbers as numbers, not as somebody writes them.
  if (workbook) return { decimal: null };
  const numbers = fileNumbers(cells);
  // Where commas part the fields, a number with nothing to tell by has a point: a comma in it would need quotes.
  const point = numbers.decimal === "unclear" && commas && !numbers.example.includes(",");
  return point ? { decimal: "." } : numbers;
}

function* numberCells(rows: Table["rows"]): Generator<string> {
  for (const { cells } of rows)
    for (const [column, cell] of Object.entries(cells)) if (NUMBER_COLUMNS.has(column)) yield cell;
}

/** Numbers as every other part of the import reads them: with a point, and nothing that groups. */
function plainNumbers(rows: Table["rows"], decimal: DecimalMark): Table["rows"] {
  const marks = marksOf(decimal);
  const plain = (column: string, cell: string) =>
    NUMBER_COLUMNS.has(column) ? (parseNumber(cell, marks) ?? cell) : cell;
  return rows.map(({ row, cells }) => ({
    row,
    cells: Object.fromEntries(Object.entries(cells).map(([column, cell]) => [column, plain(column, cell)])),
  }));
}

export interface ReadRows<Row> {
  good: (Row & { row: number })[];
  problems: RowProblem[];
  /** Cells of rows that have a problem, so that what hangs together with them can be held back. */
  bad: Cells[];
}

/** Checks each row by its schema. What the file has no column for is as `known` tells it, or empty. */
export async function readRows<S extends z.ZodType>(
  table: Table,
  schema: S,
  known: (cells: Cells) => Cells,
  job: Job,
): Promise<ReadRows<z.output<S>>> {
  const read: ReadRows<z.output<S>> = { good: [], problems: [...table.problems], bad: [] };
  const empty = Object.fromEntries(IMPORT_COLUMNS[table.kind].map((column) => [column, ""]));
  await job.begin(`Reading ${table.kind}`, table.rows.length);
  for (const [i, { row, cells }] of table.rows.entries()) {
    await job.at(i);
    const values = { ...empty, ...known(cells), ...cells };
    const parsed = schema.safeParse(values);
    if (parsed.success) read.good.push({ ...(parsed.data as object), row } as z.output<S> & { row: number });
    else {
      read.bad.push(values);
      for (const issue of parsed.error.issues) {
        const field = String(issue.path[0] ?? "");
        read.problems.push({ row, field, value: values[field] ?? "", message: issueText(issue) });
      }
    }
  }
  return read;
}

/** Of a union (empty or a number) the branch that was meant speaks. */
function issueText(issue: z.core.$ZodIssue): string {
  if (issue.code !== "invalid_union") return issue.message;
  const meant = issue.errors.at(-1)?.[0];
  return meant ? issueText(meant) : issue.message;
}
