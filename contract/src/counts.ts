import { COUNT_STATES } from "@yosegi/core";
import { itemBrief } from "./brief.ts";
import {
  bin,
  byId,
  chosen,
  costFigure,
  day,
  figure,
  lot,
  moment,
  note,
  once,
  pageEnd,
  pageQuery,
  quantityOrZero,
  ref,
  serial,
  wholeNumber,
} from "./fields.ts";
import { ask, command } from "./route.ts";
import { z } from "./zod.ts";

const head = z.object({
  id: ref,
  number: z.string(),
  state: z.enum(COUNT_STATES),
  blind: z.boolean().meta({ description: "What the books say is shown only once a line is counted" }),
  note: z.string(),
  person: z.string(),
  moment,
  lines: z.int(),
  counted: z.int().meta({ description: "Lines that were counted" }),
});

export const countRow = head
  .extend({ bins: z.array(z.string()).meta({ description: "Up to five of the bins on it" }) })
  .meta({ id: "CountRow" });
export type CountRow = z.infer<typeof countRow>;

export const countLine = z
  .object({
    id: ref,
    item: itemBrief,
    barcode: z.string(),
    store: z.string(),
    bin: z.string(),
    lot: z.string(),
    serial: z.string(),
    expiry: day.nullable(),
    books: figure
      .nullable()
      .meta({ description: "What the books say, or said when it was counted; null on a blind sheet" }),
    moved: figure
      .nullable()
      .meta({ description: "What came or, below zero, left since the sheet was made, until it was counted" }),
    counted: figure.nullable(),
    before: z.boolean().meta({ description: "It was counted before that was moved" }),
    difference: figure.nullable().meta({ description: "Counted less books; null until it is counted" }),
    value: costFigure.nullable().meta({ description: "What the difference is worth" }),
    person: z.string().meta({ description: "Who counted it" }),
    reason: z.string(),
  })
  .meta({ id: "CountLine" });
export type CountLine = z.infer<typeof countLine>;

export const countSheet = head
  .extend({
    endedBy: z.string(),
    endedAt: moment.nullable(),
    sheet: z.array(countLine),
    differences: z.int().meta({ description: "Lines that differ from the books" }),
    found: costFigure.meta({ description: "What was found beyond the books" }),
    lost: costFigure.meta({ description: "What is missing" }),
  })
  .meta({ id: "CountSheet" });
export type CountSheet = z.infer<typeof countSheet>;

const binToCount = z.object({
  location: ref,
  store: z.string(),
  bin: z.string(),
  items: z.int(),
  value: costFigure,
  moves: z.int().meta({ description: "Movements of the last 90 days, since it was counted" }),
  lastCounted: day.nullable().meta({ description: "null: something in it was never counted" }),
});
export type BinToCountAnswer = z.infer<typeof binToCount>;

const answer = countSheet;

const countSeen = countSheet.pick({ counted: true, differences: true, found: true, lost: true }).meta({
  description: "The sheet as the person saw it: another one is not posted before they have seen it",
});

export const countsRoutes = {
  counts: ask("/api/counts", {
    permission: "look",
    summary: "Count sheets, those under way first",
    query: z.object(pageQuery),
    answer: z.object({ counts: z.array(countRow), ...pageEnd }),
  }),
  countNext: ask("/api/counts/next", {
    permission: "look",
    summary: "Which bins to count next: by what is worth much and moved often since it was counted",
    answer: z.object({ bins: z.array(binToCount).meta({ description: "The first 20" }) }),
  }),
  newCount: command("/api/counts", {
    permission: "stock",
    summary: "Create a count sheet of what is in bins, of items, or of what was not counted for so long",
    body: z.object({
      bins: z
        .array(z.object({ location: chosen("the store of the bins"), bin }))
        .max(500, "Up to 500 bins.")
        .default([])
        .check(once(({ location, bin: code }) => `${location} ${code}`, "This bin is named"))
        .meta({ description: "Only what is in these; empty: any" }),
      store: ref.nullable().default(null).meta({ description: "Only what is in this store" }),
      items: z
        .array(ref)
        .max(500, "Up to 500 items.")
        .default([])
        .check(once((item) => item, "This item is named"))
        .meta({ description: "Only these; empty: any" }),
      days: wholeNumber("The number of days", 9999)
        .nullable()
        .default(null)
        .meta({ description: "Only what was not counted for so many days" }),
      blind: z.boolean().default(false),
      note: note.default(""),
    }),
    answer,
  }),
  countSheet: ask("/api/counts/:id", {
    permission: "look",
    summary: "A count sheet: what was counted against the books, in quantity and money",
    ...byId,
    answer,
  }),
  countPaper: ask("/api/counts/:id/paper", {
    permission: "look",
    summary: "A count sheet on A4, with codes to scan and places to write, as PDF",
    ...byId,
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
  enterCounts: command("/api/counts/:id/enter", {
    permission: "stock",
    summary: "Enter what was counted of lines; nothing is posted yet",
    ...byId,
    body: z.object({
      lines: z
        .array(
          z.object({
            line: ref,
            counted: quantityOrZero.nullable().meta({ description: "null: not counted after all" }),
            before: z
              .boolean()
              .default(false)
              .meta({ description: "Counted before what moved since the sheet was made" }),
            reason: note.default(""),
          }),
        )
        .min(1, "Nothing was counted.")
        .max(2000, "Up to 2000 lines.")
        .check(once(({ line }) => line, "This line is named")),
    }),
    answer,
  }),
  addFound: command("/api/counts/:id/found", {
    permission: "stock",
    summary: "Add what was found and is not on the sheet",
    ...byId,
    body: z.object({
      item: z.int("Choose an item.").positive("Choose an item."),
      store: z.string().min(1, "Choose a store."),
      bin,
      lot: lot.default(""),
      serial: serial.default(""),
      counted: quantityOrZero,
    }),
    answer,
  }),
  postCount: command("/api/counts/:id/post", {
    permission: "stock",
    summary: "Correct the stock by what was counted; lines that were not counted stay as they are",
    ...byId,
    body: countSeen,
    answer,
  }),
  cancelCount: command("/api/counts/:id/cancel", {
    permission: "stock",
    summary: "Give a count sheet up: nothing is corrected",
    ...byId,
    answer,
  }),
};
