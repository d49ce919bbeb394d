import {
  type ItemRow as CoreItemRow,
  codeKey,
  type Day,
  type Decimal,
  decimal,
  type KitRow,
  LIST_MARK,
  type ListRow,
  parseDay,
  type StockRow,
  type SupplierRow,
  VALUE_MARK,
} from "@yosegi/core";
import { z } from "zod";
import { drawnAt, itemKind, itemState, tracking } from "./brief.ts";
import {
  bin,
  code,
  cost,
  email,
  figure,
  listName,
  longText,
  lot,
  lotPattern,
  name,
  note,
  packName,
  per,
  percent,
  price,
  quantity,
  quantityOrZero,
  serial,
  share,
  short,
  web,
  yieldPercent,
} from "./fields.ts";
import { job } from "./jobs.ts";
import { priceRule, swap } from "./kits.ts";
import { ask, askWith, command } from "./route.ts";

/** The largest file that is read, in bytes. */
export const LARGEST_FILE = 10_000_000;

/** What can be brought in and taken out, in the order in which one depends on another. */
export const IMPORT_KINDS = [
  "suppliers",
  "customers",
  "items",
  "prices",
  "partsLists",
  "kits",
  "stock",
] as const;
export type ImportKind = (typeof IMPORT_KINDS)[number];

const orNull = <T extends z.ZodType>(schema: T) => z.union([z.literal("").transform(() => null), schema]);
const orElse = <T extends z.ZodType, E>(schema: T, fallback: E) =>
  z.union([z.literal("").transform(() => fallback), schema]);
const yesNo = z
  .string()
  .transform((text) => codeKey(text))
  .pipe(z.enum(["YES", "NO"], { error: "Write yes or no." }))
  .transform((text) => text === "YES");
const needed = (what: string) => z.string().min(1, `${what} is missing.`);
const amount = <T extends z.ZodType<string, string>>(schema: T) => schema.transform((text) => decimal(text));
const amountOrNull = <T extends z.ZodType<string, string>>(schema: T) => orNull(amount(schema));
const days = (what: string) =>
  orNull(
    z
      .string()
      .regex(/^\d{1,4}$/, `${what} is a whole number up to 9999.`)
      .transform(Number),
  );

const parts = (text: string) =>
  text
    .split(LIST_MARK)
    .map((part) => part.trim())
    .filter(Boolean);
/** A cell such as "box = 50; pallet = 1000"; what may stand for one need not say so. */
const valued = (what: string, orOne: boolean, called: z.ZodType<string> = z.string()) =>
  z.string().transform((text, ctx): { name: string; quantity: Decimal }[] =>
    parts(text).map((part) => {
      const [before = "", after = "", ...more] = part.split(VALUE_MARK).map((half) => half.trim());
      const read = quantity.safeParse(after === "" && orOne ? "1" : after);
      const named = called.safeParse(before);
      if (before !== "" && more.length === 0 && read.success && named.success)
        return { name: named.data, quantity: decimal(read.data) };
      const [fault] = before === "" ? [] : (named.error?.issues ?? []);
      const message =
        fault?.message ??
        `“${part.slice(0, 40)}” is no ${what}. Write it like ${what} = 2; several with ${LIST_MARK} between.`;
      ctx.addIssue({ code: "custom", message, input: text });
      return { name: before, quantity: decimal(1) };
    }),
  );

/** Rows without their number, which is the file's. */
type Row<T extends { row: number }> = Omit<T, "row">;

/** `unit`, `tracking` and `store` may be left to the defaults of the group: then they are null or empty here. */
export type ItemFileRow = Omit<Row<CoreItemRow>, "tracking"> & { tracking: CoreItemRow["tracking"] | null };

export const itemsRow: z.ZodType<ItemFileRow> = z
  .object({
    code,
    name,
    kind: itemKind,
    unit: z.string(),
    tracking: orNull(tracking),
    group: name.or(z.literal("")),
    cost: amountOrNull(cost),
    price: amountOrNull(price),
    cost_per: per,
    price_per: per,
    store: name.or(z.literal("")),
    bin,
    barcode: short("The barcode"),
    packs: valued("pack", false, packName),
    reorder_level: amountOrNull(quantityOrZero),
    build_days: days("The build days"),
    shelf_life: days("The shelf life"),
    warranty_months: days("The warranty"),
    maker: name.or(z.literal("")),
    maker_number: short("The maker's number"),
    lot_pattern: lotPattern,
    state: orElse(itemState, "active" as const),
    not_counted: orElse(yesNo, false),
    notes: longText("The note", 2000),
  })
  .transform(
    ({
      reorder_level,
      build_days,
      shelf_life,
      warranty_months,
      maker_number,
      lot_pattern,
      not_counted,
      cost_per,
      price_per,
      ...row
    }) => ({
      ...row,
      costPer: cost_per,
      pricePer: price_per,
      reorderLevel: reorder_level,
      buildDays: build_days,
      shelfLife: shelf_life,
      warrantyMonths: warranty_months,
      makerNumber: maker_number,
      lotPattern: lot_pattern,
      notCounted: not_counted,
    }),
  );

export const partsListsRow: z.ZodType<Row<ListRow>> = z
  .object({
    product: needed("The product"),
    list: listName.or(z.literal("")),
    makes: amountOrNull(quantity),
    usual: amountOrNull(quantity),
    overhead: amountOrNull(cost),
    extra: amountOrNull(cost),
    yield: amountOrNull(yieldPercent),
    part: needed("The part"),
    quantity: amount(quantity),
    unit: needed("The unit"),
    waste: orElse(amount(percent), decimal(0)),
    once_per_build: orElse(yesNo, false),
    optional: orElse(yesNo, false),
    drawn_at: orElse(drawnAt, "pick" as const),
    store: name.or(z.literal("")),
    share: amountOrNull(share),
    person: z.string(),
    substitutes: valued("CODE", true),
    note,
  })
  .transform(({ once_per_build, drawn_at, substitutes, ...row }) => ({
    ...row,
    oncePerBuild: once_per_build,
    drawnAt: drawn_at,
    substitutes: substitutes.map((s) => ({ item: s.name, quantity: s.quantity })),
  }));

export const kitsRow: z.ZodType<Row<KitRow>> = z
  .object({
    kit: needed("The kit"),
    contents_shown: orNull(yesNo),
    may_be_added_to: orNull(yesNo),
    price_rule: orNull(priceRule),
    discount: amountOrNull(share),
    content: needed("The content"),
    quantity: amount(quantity),
    swap: orElse(swap, "fixed" as const),
    swaps: z.string().transform(parts),
    quantity_may_change: orElse(yesNo, false),
    may_be_left_out: orElse(yesNo, false),
  })
  .transform((row) => ({
    kit: row.kit,
    contentsShown: row.contents_shown,
    mayBeAddedTo: row.may_be_added_to,
    priceRule: row.price_rule,
    discount: row.discount,
    item: row.content,
    quantity: row.quantity,
    swap: row.swap,
    swaps: row.swaps,
    quantityMayChange: row.quantity_may_change,
    mayBeLeftOut: row.may_be_left_out,
  }));

export const firmsRow = z.object({
  code,
  name,
  address: longText("The address", 500),
  contact: name.or(z.literal("")),
  email,
  phone: short("The phone number"),
  terms: longText("The terms", 500),
});
export type FirmFileRow = z.infer<typeof firmsRow>;

export const pricesRow: z.ZodType<Row<SupplierRow>> = z
  .object({
    item: needed("The item"),
    supplier: needed("The supplier"),
    their_code: short("Their code"),
    price: amountOrNull(cost),
    price_per: per,
    lead_days: days("The lead days"),
    minimum: amountOrNull(quantityOrZero),
    multiple: amountOrNull(quantity),
    web,
    preferred: orElse(yesNo, false),
  })
  .transform(({ their_code, lead_days, price_per, ...row }) => ({
    ...row,
    theirCode: their_code,
    leadDays: lead_days,
    pricePer: price_per,
  }));

export const stockRow = (today: Day): z.ZodType<Row<StockRow>> =>
  z
    .object({
      item: needed("The item"),
      store: needed("The store").pipe(name),
      bin,
      quantity: amount(quantity),
      unit_cost: amountOrNull(cost),
      cost_per: per,
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
    })
    .transform(({ unit_cost, cost_per, ...row }) => ({ ...row, unitCost: unit_cost, costPer: cost_per }));

const FIRM_COLUMNS = ["code", "name", "address", "contact", "email", "phone", "terms"];
/** The columns of each file, in the order of the templates; the same in and out. */
export const IMPORT_COLUMNS: Record<ImportKind, readonly string[]> = {
  suppliers: FIRM_COLUMNS,
  customers: FIRM_COLUMNS,
  items: [
    "code",
    "name",
    "kind",
    "unit",
    "tracking",
    "group",
    "cost",
    "cost_per",
    "price",
    "price_per",
    "store",
    "bin",
    "barcode",
    "packs",
    "reorder_level",
    "build_days",
    "shelf_life",
    "warranty_months",
    "maker",
    "maker_number",
    "lot_pattern",
    "state",
    "not_counted",
    "notes",
  ],
  prices: [
    "item",
    "supplier",
    "their_code",
    "price",
    "price_per",
    "lead_days",
    "minimum",
    "multiple",
    "web",
    "preferred",
  ],
  partsLists: [
    "product",
    "list",
    "makes",
    "usual",
    "overhead",
    "extra",
    "yield",
    "part",
    "quantity",
    "unit",
    "waste",
    "once_per_build",
    "optional",
    "drawn_at",
    "store",
    "share",
    "person",
    "substitutes",
    "note",
  ],
  kits: [
    "kit",
    "contents_shown",
    "may_be_added_to",
    "price_rule",
    "discount",
    "content",
    "quantity",
    "swap",
    "swaps",
    "quantity_may_change",
    "may_be_left_out",
  ],
  stock: ["item", "store", "bin", "quantity", "unit_cost", "cost_per", "lot", "expiry", "serial"],
};

/** Columns whose cells are numbers, as a file writes them. */
export const NUMBER_COLUMNS: ReadonlySet<string> = new Set([
  "cost",
  "price",
  "reorder_level",
  "minimum",
  "multiple",
  "makes",
  "usual",
  "overhead",
  "extra",
  "yield",
  "quantity",
  "waste",
  "share",
  "discount",
  "unit_cost",
]);

/** Columns without which a file says nothing; all others may be missing and are taken as empty. */
export const NEEDED_COLUMNS: Record<ImportKind, readonly string[]> = {
  suppliers: ["code", "name"],
  customers: ["code", "name"],
  items: ["code", "name", "kind"],
  prices: ["item", "supplier"],
  partsLists: ["product", "part", "quantity", "unit"],
  kits: ["kit", "content", "quantity"],
  stock: ["item", "store", "quantity"],
};

/** What a file of each kind is called when it is taken out, without its ending. */
export const IMPORT_NAMES: Record<ImportKind, string> = {
  suppliers: "suppliers",
  customers: "customers",
  items: "items",
  prices: "supplier-prices",
  partsLists: "parts-lists",
  kits: "kits",
  stock: "stock",
};

const kind = z.enum(IMPORT_KINDS);

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
            description: "What parts the decimals; null: no number has any, unclear: it must be said",
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

export const importRoutes = {
  checkImport: askWith("/api/imports/check", {
    summary: "Check every row of the files; writes nothing",
    body: files.extend({ job }),
    answer: importReport,
  }),
  import: command("/api/imports", {
    summary: "Import what was checked, whole or only its good rows",
    body: files.extend({ job, token: z.string(), goodRowsOnly: z.boolean() }),
    answer: z.object({ document: z.string(), adds: importReport.shape.adds }),
  }),
  export: ask("/api/exports/:kind", {
    summary: "Take a kind of record out as a spreadsheet with the columns of its import",
    params: z.object({ kind }),
    query: z.object({
      format: z.enum(["csv", "xlsx"]).default("csv"),
      empty: z.stringbool().default(false).meta({ description: "Only the header, as a template" }),
    }),
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
};
