import { type Day, parseDay } from "@yosegi/core";
import { z } from "zod";
import { itemKind, tracking } from "./catalog.ts";
import { bin, code, cost, figure, lot, name, percent, price, quantity, serial } from "./fields.ts";
import { askWith, command } from "./route.ts";

/** The largest file that is read, in bytes. */
export const LARGEST_FILE = 5_000_000;

const orNull = <T extends z.ZodType>(schema: T) => z.union([z.literal("").transform(() => null), schema]);
const orElse = <T extends z.ZodType, E>(schema: T, fallback: E) =>
  z.union([z.literal("").transform(() => fallback), schema]);
const yes = z.enum(["yes", "no"], { error: "Write yes or no." }).transform((text) => text === "yes");
const needed = (what: string) => z.string().min(1, `${what} is missing.`);

/** Rows of items.csv as text, by column; the same rules as the forms. */
export const itemsRow = z.object({
  code,
  name,
  kind: itemKind,
  unit: needed("The unit"),
  tracking: orElse(tracking, "none" as const),
  cost: orNull(cost),
  price: orNull(price),
  store: z.string(),
  bin,
});

export const stockRow = (today: Day) =>
  z.object({
    item: needed("The item"),
    store: needed("The store"),
    bin,
    quantity,
    unit_cost: orNull(cost),
    lot,
    expiry: z.string().transform((text, ctx) => {
      if (text === "") return null;
      const day = parseDay(text, today);
      if (day === null)
        ctx.addIssue({
          code: "custom",
          message: `“${text.slice(0, 40)}” is no day. Write it like 2026-12-31, or +90 for days from today.`,
          input: text,
        });
      return day;
    }),
    serial,
  });

export const partsListsRow = z.object({
  product: needed("The product"),
  makes: orNull(quantity),
  usual: orNull(quantity),
  overhead: orNull(cost),
  part: needed("The part"),
  quantity,
  unit: needed("The unit"),
  waste: orElse(percent, "0"),
  once_per_build: orElse(yes, false),
});

/** The columns of each file, in the order of the templates. */
export const IMPORT_COLUMNS = {
  items: Object.keys(itemsRow.shape),
  partsLists: Object.keys(partsListsRow.shape),
  stock: Object.keys(stockRow("2000-01-01").shape),
} as const;
export type ImportFile = keyof typeof IMPORT_COLUMNS;
export const IMPORT_NAMES: Record<ImportFile, string> = {
  items: "items.csv",
  partsLists: "parts-lists.csv",
  stock: "stock.csv",
};

const file = z
  .string()
  .nullable()
  .meta({ description: "The text of the file (CSV, RFC 4180, UTF-8, with header), or null" });
const files = z.object({ items: file, partsLists: file, stock: file });
export type ImportFiles = z.infer<typeof files>;

export const importReport = z
  .object({
    token: z.string().meta({ description: "Stands for what was checked; goes with the confirmation" }),
    files: z.array(
      z.object({ file: z.enum(["items", "partsLists", "stock"]), rows: z.int(), good: z.int() }),
    ),
    problems: z.array(
      z.object({
        file: z.enum(["items", "partsLists", "stock"]),
        row: z.int().meta({ description: "As a spreadsheet counts: the header is row 1" }),
        field: z.string(),
        value: z.string(),
        message: z.string(),
      }),
    ),
    adds: z.object({
      items: z.int(),
      lists: z.int(),
      stockRows: z.int(),
      stockValue: figure,
      stores: z.array(z.string()),
      bins: z.int(),
    }),
  })
  .meta({ id: "ImportReport" });
export type ImportReport = z.infer<typeof importReport>;

export const importRoutes = {
  checkImport: askWith("/api/imports/check", {
    summary: "Check every row of the files; writes nothing",
    body: files,
    answer: importReport,
  }),
  import: command("/api/imports", {
    summary: "Import what was checked, whole or only its good rows",
    body: files.extend({ token: z.string(), goodRowsOnly: z.boolean() }),
    answer: z.object({ document: z.string(), adds: importReport.shape.adds }),
  }),
};
