import { byId, figure, moment, ref } from "./fields.ts";
import { job } from "./jobs.ts";
import { ask, askWith, command } from "./route.ts";
import { z } from "./zod.ts";

/** The largest file that is read, in bytes. */
export const LARGEST_FILE = 10_000_000;

/** What can be brought in and taken out, in the order in which one depends on another. */
export const IMPORT_KINDS = [
  "suppliers",
  "customers",
  "items",
  "prices",
  "priceLists",
  "partsLists",
  "kits",
  "stock",
] as const;

export type ImportKind = (typeof IMPORT_KINDS)[number];

/** What a file of each kind is called when it is taken out, without its ending. */
export const IMPORT_NAMES: Record<ImportKind, string> = {
  suppliers: "suppliers",
  customers: "customers",
  items: "items",
  prices: "supplier-prices",
  priceLists: "price-lists",
  partsLists: "parts-lists",
  kits: "kits",
  stock: "stock",
};

export const kind = z.enum(IMPORT_KINDS);

export const DECIMAL_MARKS = [".", ","] as const;

export const importFile = z.object({
  kind,
  name: z.string().max(200).meta({ description: "With its ending: .csv or .xlsx" }),
  content: z.base64("The content is not in base64."),
  columns: z.record(z.string(), z.string()).meta({
    description:
      "Our column by theirs, where the names differ: { theirs: ours }; ours is empty to leave it out",
  }),
  decimal: z
    .enum(DECIMAL_MARKS, { error: "Decimals have a point or a comma." })
    .nullable()
    .default(null)
    .meta({ description: "What parts the decimals of its numbers; null: as the file tells" }),
});

export type ImportFile = z.infer<typeof importFile>;

const files = z.object({
  files: z.array(importFile).min(1, "Choose at least one file.").max(IMPORT_KINDS.length),
  update: z.boolean().meta({ description: "Also change what is there already" }),
});

export type ImportBody = z.infer<typeof files>;

export const importReport = z
  .object({
    token: z.string().meta({ description: "Stands for what was checked; goes with the confirmation" }),
    files: z.array(
      z.object({
        kind,
        rows: z.int(),
        fresh: z.int().meta({ description: "Rows that add something" }),
        changed: z.int().meta({ description: "Rows that would change what is there" }),
        same: z.int().meta({ description: "Rows that say what is there already" }),
        theirs: z.array(z.string()).meta({ description: "The columns of the file" }),
        columns: z.record(z.string(), z.string()).meta({ description: "Which of ours each is read as" }),
        missing: z.array(z.string()).meta({ description: "Needed columns that were not found" }),
        decimal: z
          .enum([...DECIMAL_MARKS, "unclear"])
          .nullable()
          .meta({
            description:
              "The decimal mark of the file; null where no number has decimals, unclear where the person has to choose",
          }),
      }),
    ),
    problems: z.array(
      z.object({
        kind,
        row: z.int().meta({ description: "As a spreadsheet counts: the header is row 1" }),
        field: z.string(),
        value: z.string(),
        message: z.string(),
      }),
    ),
    changes: z.array(
      z.object({
        kind,
        row: z.int(),
        what: z.string(),
        field: z.string(),
        before: z.string(),
        after: z.string(),
      }),
    ),
    adds: z.object({
      fresh: z.record(kind, z.int()).meta({ description: "Things to be made, by kind" }),
      changed: z.record(kind, z.int()).meta({ description: "Things to be changed, by kind" }),
      stockValue: figure,
      stores: z.array(z.string()),
      bins: z.int(),
      groups: z.array(z.string()),
    }),
  })
  .meta({ id: "ImportReport" });

export type ImportReport = z.infer<typeof importReport>;

export const importRun = z.object({
  id: ref,
  number: z.string(),
  person: z.string(),
  moment,
  fresh: z.record(kind, z.int()).meta({ description: "Things that were made, by kind" }),
  changed: z.record(kind, z.int()).meta({ description: "Things that were changed, by kind" }),
  undone: z.object({ person: z.string(), moment }).nullable(),
});

export type ImportRun = z.infer<typeof importRun>;

export const importRoutes = {
  checkImport: askWith("/api/imports/check", {
    permission: "import",
    summary: "Check every row of the files; writes nothing",
    body: files.extend({ job }),
    answer: importReport,
  }),
  import: command("/api/imports", {
    permission: "import",
    summary: "Import what was checked, whole or only its good rows",
    body: files.extend({ job, token: z.string(), goodRowsOnly: z.boolean() }),
    answer: z.object({ document: z.string(), adds: importReport.shape.adds }),
  }),
  importRuns: ask("/api/imports", {
    permission: "look",
    summary: "What was imported, the latest first",
    answer: z.object({ imports: z.array(importRun) }),
  }),
  undoImport: command("/api/imports/:id/undo", {
    permission: "import",
    summary: "Undo an import while nothing was done with what it brought",
    ...byId,
    answer: z.object({
      number: z.string(),
      removed: z.int().meta({ description: "Items that are gone" }),
      archived: z
        .int()
        .meta({ description: "Items that stay archived, for the ledger has their opening stock" }),
      restored: z.int().meta({ description: "Records that are as they were before" }),
    }),
  }),
  export: ask("/api/exports/:kind", {
    permission: "look",
    summary: "Take a kind of record out as a spreadsheet with the columns of its import",
    params: z.object({ kind }),
    query: z.object({
      format: z.enum(["csv", "xlsx"]).default("csv"),
      empty: z.stringbool().default(false).meta({ description: "Only the header, as a template" }),
    }),
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
};
