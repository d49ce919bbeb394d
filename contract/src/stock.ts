import { POSTING_KINDS } from "@yosegi/core";
import { itemBrief } from "./brief.ts";
import {
  bin,
  byId,
  cost,
  costFigure,
  day,
  figure,
  id,
  lot,
  moment,
  name,
  note,
  once,
  pageEnd,
  pageQuery,
  per,
  quantity,
  quantityOrZero,
  ref,
  serial,
  short,
} from "./fields.ts";
import { ask, command, replace } from "./route.ts";
import { z } from "./zod.ts";

export const movementRow = z
  .object({
    id: ref,
    moment,
    day,
    item: itemBrief,
    quantity: figure,
    from: z.string().meta({ description: "Place and bin; empty: from outside" }),
    to: z.string().meta({ description: "Place and bin; empty: used up or gone" }),
    lot: z.string(),
    serial: z.string(),
    value: costFigure,
    kind: z.enum(POSTING_KINDS),
    counted: z
      .boolean()
      .meta({ description: "It puts the books right, within a posting for something else" }),
    document: z.string(),
    build: ref.nullable(),
    person: z.string(),
    device: z.string().meta({ description: "What its person calls the device it was entered on" }),
    costTag: z.string(),
    reason: z.string(),
  })
  .meta({ id: "MovementRow" });
export type MovementRow = z.infer<typeof movementRow>;

export const store = z
  .object({ id: ref, name: z.string(), archived: z.boolean(), bins: z.array(z.string()) })
  .meta({ id: "Store" });
export type StoreAnswer = z.infer<typeof store>;

export const newReceipt = z.object({
  lines: z
    .array(
      z.object({
        item: z.int("Choose an item.").positive("Choose an item."),
        quantity,
        unitCost: cost.nullable().default(null).meta({ description: "null takes the standard cost" }),
        costPer: per,
        store: z.string().min(1, "Choose a store."),
        bin,
        lot: lot.default(""),
        expiry: day.nullable().default(null),
        madeOn: day.nullable().default(null).meta({ description: "Of its lot or unit" }),
        serial: serial.default(""),
      }),
    )
    .min(1, "Nothing is received.")
    .max(500, "Up to 500 lines."),
  day,
  costTag: short("The cost tag").default(""),
  reason: note.default(""),
});

/** So much of what is in one bin. */
const stockLine = z.object({
  item: z.int("Choose an item.").positive("Choose an item."),
  store: z.string().min(1, "Choose a store."),
  bin,
  lot: lot.default(""),
  serial: serial.default(""),
  quantity,
});

export const countBody = z.object({
  item: ref,
  store: z.string().min(1, "Choose a store."),
  bin,
  lot: lot.default(""),
  serial: serial.default(""),
  there: quantityOrZero.meta({ description: "What is really there" }),
  cost: cost
    .nullable()
    .default(null)
    .meta({ description: "For one, where there is more; null: its current cost" }),
  newBin: z
    .boolean()
    .default(false)
    .meta({ description: "The bin is a new one; else it must be one of the store's" }),
  reason: note.min(1, "Say what was found, or why."),
});

export const stockRoutes = {
  stores: ask("/api/stores", {
    permission: "look",
    summary: "Stores and their bins",
    answer: z.object({ stores: z.array(store) }),
  }),
  newStore: command("/api/stores", {
    permission: "stores",
    summary: "Add a store",
    body: z.object({ name }),
    answer: store,
  }),
  changeStore: replace("/api/stores/:id", {
    permission: "stores",
    summary: "Rename a store, or archive one that is empty",
    ...byId,
    body: z.object({ name, archived: z.boolean().default(false) }),
    answer: store,
  }),
  removeStore: command("/api/stores/:id/remove", {
    permission: "stores",
    summary: "Remove a store that nothing was ever in",
    ...byId,
    answer: z.object({}),
  }),
  addBins: command("/api/stores/:id/bins", {
    permission: "stores",
    summary: "Add bins to a store",
    ...byId,
    body: z.object({
      bins: z.array(bin.min(1, "The bin is missing.")).min(1, "The bin is missing.").max(1000),
    }),
    answer: store,
  }),
  orderBins: command("/api/stores/:id/bins/order", {
    permission: "stores",
    summary: "Set the order in which one walks by the bins of a store; bins that are not named come last",
    ...byId,
    body: z.object({
      bins: z
        .array(bin.min(1, "The bin is missing."))
        .max(5000, "Up to 5000 bins.")
        .check(once((code) => code, "This bin is named")),
    }),
    answer: store,
  }),
  renameBin: command("/api/stores/:id/bins/rename", {
    permission: "stores",
    summary: "Rename a bin: what is in it is moved to the new name, and items and open builds follow",
    ...byId,
    body: z.object({ bin: bin.min(1), to: bin.min(1, "Enter the new name.") }),
    answer: z.object({
      document: z.string().nullable().meta({ description: "The move; null where the bin was empty" }),
    }),
  }),
  removeBin: command("/api/stores/:id/bins/remove", {
    permission: "stores",
    summary: "Remove a bin that is empty; one that was used is closed",
    ...byId,
    body: z.object({ bin: bin.min(1) }),
    answer: store,
  }),
  binContents: ask("/api/stores/:id/contents", {
    permission: "look",
    summary: "What is in a bin of a store, with the codes by which it is scanned",
    ...byId,
    query: z.object({ bin: z.string().max(20).default("") }),
    answer: z.object({
      contents: z.array(
        z.object({
          item: itemBrief,
          barcode: z.string(),
          lot: z.string(),
          serial: z.string(),
          expiry: day.nullable(),
          quantity: figure,
        }),
      ),
    }),
  }),
  stockPlaces: ask("/api/stock/places", {
    permission: "look",
    summary: "Where everything is, or was at the end of a day, by item, with its value",
    query: z.object({ ...pageQuery, day: day.optional() }),
    answer: z.object({
      day,
      value: costFigure,
      totals: z.array(z.object({ place: z.string(), value: costFigure })),
      items: z.array(
        z.object({
          item: itemBrief,
          places: z
            .array(z.object({ place: z.string(), quantity: figure, value: costFigure }))
            .meta({ description: "What is with customers has no value of ours" }),
        }),
      ),
      ...pageEnd,
    }),
  }),
  movements: ask("/api/stock/movements", {
    permission: "look",
    summary: "The stock ledger, latest first",
    query: z.object({
      item: id.optional(),
      document: z.string().max(40).optional(),
      lot: z.string().max(40).default("").meta({ description: "Only of this lot" }),
      serial: z.string().max(60).default("").meta({ description: "Only of this unit" }),
      search: z.string().max(200).default("").meta({
        description: "Words of item, lot, serial number, document or reason that each of them must have",
      }),
      before: id.optional().meta({ description: "Only movements with a smaller id, for the next page" }),
      limit: z.coerce.number().int().min(1).max(1000).default(200),
    }),
    answer: z.object({
      movements: z.array(movementRow),
      total: z.int(),
      undoable: z
        .boolean()
        .meta({ description: "The document asked for was booked by hand and can be undone" }),
    }),
  }),
  receive: command("/api/stock/receipts", {
    permission: "stock",
    summary: "Take stock in by hand",
    body: newReceipt,
    answer: z.object({ document: z.string() }),
  }),
  moveStock: command("/api/stock/moves", {
    permission: "stock",
    summary: "Move stock between bins and stores",
    body: z.object({
      lines: z
        .array(stockLine.extend({ toStore: z.string().min(1, "Choose a store."), toBin: bin }))
        .min(1, "Nothing is moved.")
        .max(500, "Up to 500 lines."),
      costTag: short("The cost tag").default(""),
      reason: note.default(""),
      day,
    }),
    answer: z.object({ document: z.string() }),
  }),
  scrapStock: command("/api/stock/scraps", {
    permission: "stock",
    summary: "Scrap stock: its value is lost",
    body: z.object({
      lines: z.array(stockLine).min(1, "Nothing is scrapped.").max(500, "Up to 500 lines."),
      costTag: short("The cost tag").default(""),
      reason: note.min(1, "Enter why it is scrapped."),
      day,
    }),
    answer: z.object({ document: z.string(), lost: costFigure }),
  }),
  undoStock: command("/api/stock/undo", {
    permission: "stock",
    summary: "Undo a move, a scrap, a count, or stock received by hand",
    body: z.object({ document: z.string().min(1).max(40) }),
    answer: z.object({ document: z.string() }),
  }),
  count: command("/api/stock/counts", {
    permission: "stock",
    summary: "Put the stock of one item in one bin right by a count",
    body: countBody.extend({ day }),
    answer: z.object({
      document: z.string(),
      difference: figure.meta({ description: "What the books gained; below zero: lost" }),
    }),
  }),
};
