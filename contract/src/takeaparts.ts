import { documentBrief, itemBrief } from "./brief.ts";
import { coverQuestion } from "./cover.ts";
import {
  bin,
  byId,
  costFigure,
  day,
  figure,
  id,
  lot,
  moment,
  note,
  once,
  pageEnd,
  pageQuery,
  quantity,
  quantityOrZero,
  ref,
  serial,
  short,
} from "./fields.ts";
import { ask, askWith, command } from "./route.ts";
import { z } from "./zod.ts";

const store = z.string().trim().max(120);

export const takeApartBody = z.object({
  item: ref,
  lot: lot.default(""),
  serial: serial.default(""),
  quantity,
  store: store.default("").meta({ description: "Where it is taken from; empty with `returnLine`" }),
  bin: bin.default(""),
  returnLine: z
    .object({ id: ref, line: ref })
    .nullable()
    .default(null)
    .meta({ description: "The line of a return that it is taken from" }),
  build: ref.nullable().default(null).meta({ description: "The build that made it; null: not known" }),
  revision: ref.nullable().default(null).meta({
    description: "Where no build is known, the revision that says what is inside; null: that in force",
  }),
  day,
  reason: note.default(""),
  costTag: short("The cost tag").default(""),
  work: ref.nullable().default(null).meta({ description: "The service at whose rate the time is charged" }),
  minutes: quantityOrZero
    .default("0")
    .meta({ description: "Time spent on it; a cost of its own, lost as work put in" }),
  charge: z.boolean().default(false).meta({
    description: "From a return: what is lost with damaged and missing parts is taken off the credit",
  }),
  parts: z
    .array(
      z.object({
        item: ref,
        lot: lot.default(""),
        serial: serial.default(""),
        expected: quantity.meta({ description: "good + damaged + missing" }),
        good: quantityOrZero,
        damaged: quantityOrZero.default("0"),
        missing: quantityOrZero.default("0"),
        store: store.default("").meta({ description: "Where the good ones go" }),
        bin: bin.default(""),
      }),
    )
    .min(1, "Nothing is taken out of it.")
    .max(500, "Up to 500 parts.")
    .check(
      // What is damaged or missing may have no number that is known.
      once(
        ({ item, lot: l, serial: s }) => (l === "" && s === "" ? null : JSON.stringify([item, l, s])),
        "This part is named",
      ),
    ),
});
export type TakeApartBody = z.infer<typeof takeApartBody>;

const landing = {
  valueOut: costFigure.meta({ description: "What the units carried" }),
  recovered: costFigure.meta({ description: "What comes back to stock with the good parts" }),
  damaged: costFigure,
  missing: costFigure,
  workPutIn: costFigure.meta({ description: "What they carried above what their parts cost" }),
  work: costFigure.meta({ description: "What the time spent on it costs, beside that" }),
  charged: costFigure.meta({ description: "What of it is taken off the customer's credit" }),
};

const proposedPart = z.object({
  item: itemBrief,
  barcode: z.string(),
  lot: z.string(),
  serial: z.string(),
  expected: figure,
  home: z.object({ store: z.string(), bin: z.string() }),
});
export type ProposedPart = z.infer<typeof proposedPart>;

/** A revision of a parts list, by the names a person knows it by. */
const listRevision = z.object({ id: ref, list: z.string(), number: z.int(), inForce: z.boolean() });

export const takeApartProposal = z
  .object({
    item: itemBrief,
    home: z.object({ store: z.string(), bin: z.string() }).meta({ description: "Where it is usually kept" }),
    build: documentBrief.nullable().meta({ description: "The build that made it, or that was chosen" }),
    revision: ref.nullable().meta({
      description: "The revision that says what is inside; null: the build does",
    }),
    revisions: z.array(listRevision).meta({ description: "Of all lists of the product, the main one first" }),
    builds: z
      .array(documentBrief.extend({ left: figure.meta({ description: "Good units not taken apart yet" }) }))
      .meta({ description: "Builds that it may come from, the latest first" }),
    parts: z
      .array(proposedPart)
      .meta({ description: "What it should hold: by its build, else by the parts list in force" }),
  })
  .meta({ id: "TakeApartProposal" });
export type TakeApartProposal = z.infer<typeof takeApartProposal>;

export const takeApartRow = z
  .object({
    id: ref,
    number: z.string(),
    item: itemBrief,
    lot: z.string(),
    serial: z.string(),
    quantity: figure,
    day,
    person: z.string(),
    moment,
    undone: z.object({ person: z.string(), moment }).nullable(),
  })
  .meta({ id: "TakeApartRow" });
export type TakeApartRow = z.infer<typeof takeApartRow>;

export const takeApartSheet = takeApartRow
  .extend({
    from: z.string(),
    build: documentBrief.nullable(),
    revision: z
      .object({ list: z.string(), number: z.int() })
      .nullable()
      .meta({ description: "The revision that was chosen to say what is inside" }),
    costTag: z.string(),
    return: documentBrief.nullable(),
    reason: z.string(),
    ...landing,
    minutes: figure.meta({ description: "Time spent on it" }),
    parts: z.array(
      z.object({
        line: ref,
        item: itemBrief,
        lot: z.string(),
        serial: z.string(),
        expected: figure,
        good: figure,
        damaged: figure,
        missing: figure,
        place: z.string(),
        allotted: costFigure,
        recovered: costFigure,
      }),
    ),
  })
  .meta({ id: "TakeApartSheet" });
export type TakeApartSheet = z.infer<typeof takeApartSheet>;

export const takeApartPreview = z
  .object({
    ...landing,
    parts: z.array(z.object({ allotted: costFigure, recovered: costFigure })),
  })
  .meta({ id: "TakeApartPreview" });

const shortageWay = z
  .object({
    part: itemBrief,
    short: figure.meta({ description: "What is short of it now" }),
    product: itemBrief,
    free: figure.meta({ description: "Free units of the product" }),
    units: figure.meta({ description: "So many are taken apart: no more than the shortage asks for" }),
    held: figure.meta({ description: "What they hold of the part, by the parts list in force" }),
    lost: costFigure.nullable().meta({
      description: "What of their value no part takes back, all parts good; null: no cost is known",
    }),
    at: z
      .object({ store: z.string(), bin: z.string(), lot: z.string(), serial: z.string(), quantity: figure })
      .meta({ description: "Where most of them are" }),
  })
  .meta({ id: "ShortageWay" });
export type ShortageWay = z.infer<typeof shortageWay>;

export const takeApartRoutes = {
  takeAparts: ask("/api/take-aparts", {
    permission: "look",
    summary: "Take-aparts, the latest first",
    query: z.object(pageQuery),
    answer: z.object({ takeAparts: z.array(takeApartRow), ...pageEnd }),
  }),
  takeApart: ask("/api/take-aparts/:id", {
    permission: "look",
    summary: "One take-apart: what came out, and where the value landed",
    ...byId,
    answer: takeApartSheet,
  }),
  takeApartProposal: ask("/api/take-aparts/proposal", {
    permission: "look",
    summary: "What units of a product should hold, by the build that made them or by the parts list",
    query: z.object({
      item: id,
      lot: z.string().max(40).default(""),
      serial: z.string().max(60).default(""),
      quantity: quantity.default("1"),
      build: z.coerce.number().int().nonnegative().default(0).meta({ description: "0: found by itself" }),
      revision: z.coerce.number().int().nonnegative().default(0).meta({
        description:
          "The revision that says what is inside, in place of any build; 0: the build, or that in force",
      }),
    }),
    answer: takeApartProposal,
  }),
  previewTakeApart: askWith("/api/take-aparts/preview", {
    permission: "look",
    summary: "Where the value would land; records nothing",
    body: takeApartBody,
    answer: takeApartPreview,
  }),
  takeApartWays: askWith("/api/take-aparts/ways", {
    permission: "look",
    summary: "Which free products hold what a check is short of, and what taking them apart costs",
    body: coverQuestion,
    answer: z.object({
      ways: z
        .array(shortageWay)
        .meta({ description: "Of the first 40 short parts up to five each, the cheapest first" }),
    }),
  }),
  newTakeApart: command("/api/take-aparts", {
    permission: "build",
    summary: "Take units of a product apart: the good parts come back to stock",
    body: takeApartBody,
    answer: takeApartSheet,
  }),
  undoTakeApart: command("/api/take-aparts/:id/undo", {
    permission: "build",
    summary: "Undo a take-apart: the units are whole again",
    ...byId,
    answer: takeApartSheet,
  }),
};
