import type { Parsed } from "./amounts.ts";
import { partShort } from "./erroranswer.ts";
import {
  bin,
  costFigure,
  day,
  figure,
  lot,
  note,
  once,
  quantity,
  quantityOrZero,
  ref,
  serial,
} from "./fields.ts";
import { countBody } from "./stock.ts";
import { z } from "./zod.ts";

const taken = z.object({
  store: z.string(),
  bin: z.string(),
  lot: z.string(),
  serial: z.string(),
  quantity: figure,
});

export const finishLine = z.object({
  line: ref,
  item: ref,
  planned: figure,
  used: figure,
  scrapped: figure.meta({ description: "Of what was used, what went into no unit" }),
  difference: figure,
  fromBench: figure.meta({ description: "Of what was used, what had been handed out" }),
  back: figure.meta({ description: "What goes back from the bench to its bins" }),
  cost: costFigure,
  differenceCost: costFigure,
  taken: z.array(taken),
});

export const finishCost = z.object({
  parts: costFigure,
  work: costFigure,
  overhead: costFigure,
  extra: costFigure,
  subcontractor: costFigure.meta({ description: "The subcontractor's fee" }),
  total: costFigure,
  each: costFigure.nullable(),
});

const usedOfLine = {
  scrapped: quantityOrZero.default("0"),
  reason: note.default("").meta({ description: "Why some of it was scrapped" }),
  only: z
    .array(z.string().max(60))
    .default([])
    .meta({ description: "Lots or serials it is taken from, in this order; none: the suggested ones" }),
};

const countedBin = ({ item, store, bin, lot, serial }: z.infer<typeof countBody>): string =>
  JSON.stringify([item, store.trim().toLowerCase(), bin, lot, serial]);

export const finishBody = z.object({
  good: quantityOrZero,
  rejected: quantityOrZero,
  reason: note.meta({ description: "Why units were rejected" }),
  day,
  lines: z
    .array(
      z.object({
        line: ref,
        used: quantityOrZero
          .nullable()
          .meta({ description: "null: what is planned, or what the work adds up to" }),
        ...usedOfLine,
      }),
    )
    .check(once((line) => line.line, "This line is named"))
    .meta({ description: "Lines left out take their planned figure" }),
  extra: z
    .array(
      z.object({
        item: ref,
        insteadOf: ref
          .nullable()
          .default(null)
          .meta({ description: "The line of the list whose part it replaces" }),
        used: quantityOrZero,
        ...usedOfLine,
      }),
    )
    .max(100)
    .default([])
    .meta({ description: "Parts that are not on the list, and substitutes" }),
  work: z
    .array(z.object({ line: ref, person: ref, quantity }))
    .max(500)
    .default([])
    .meta({ description: "Who worked how long, in the unit of the line; it adds up to what was used" }),
  counts: z
    .array(countBody)
    .max(100)
    .check(once(countedBin, "This bin is counted"))
    .default([])
    .meta({ description: "What was counted because the books said otherwise; recorded in the same step" }),
  returnToStock: z.boolean().default(false).meta({ description: "What is left on the bench goes back now" }),
  store: z.string(),
  bin,
  lot: lot.meta({ description: "Of the finished units, where the product is kept by lot" }),
  expiry: day.nullable().meta({ description: "Of the lot, or of all units by serial number" }),
  madeOn: day.nullable().default(null).meta({ description: "The same; null: the day of the finish" }),
  serials: z.array(serial).max(10_000),
  serialParts: z
    .array(z.object({ serial, item: ref, part: serial }))
    .max(50_000)
    .default([])
    .meta({ description: "Which part serials went into which unit; none: dealt out in turn" }),
  closeRest: z.boolean().meta({ description: "Give up what is still open after this" }),
});

export type FinishBody = z.infer<typeof finishBody>;
/** The same with its amounts parsed. */
export type FinishInput = Parsed<typeof finishBody>;

/** A finish that says nothing but what the plan says; its good units, day and store are left to be told. */
export const PLAIN_FINISH = {
  rejected: "0",
  reason: "",
  lines: [],
  extra: [],
  work: [],
  counts: [],
  returnToStock: false,
  bin: "",
  lot: "",
  expiry: null,
  madeOn: null,
  serials: [],
  serialParts: [],
  closeRest: false,
} satisfies Omit<FinishBody, "good" | "day" | "store">;

/** What a line says where only its used figure is told. */
export const PLAIN_LINE = { scrapped: "0", reason: "", only: [] } satisfies Partial<
  FinishBody["lines"][number]
>;

export const finishPreview = z.object({
  lines: z.array(finishLine),
  cost: finishCost.nullable().meta({ description: "null where there is not enough stock on record" }),
  shorts: z.array(partShort),
  largest: figure.nullable(),
  noCost: z.array(z.string()).meta({ description: "Parts that carry no cost" }),
  low: z
    .array(z.object({ name: z.string(), free: figure, level: figure, unit: z.string() }))
    .meta({ description: "Parts that are below their reorder level after this" }),
});

export type FinishPreview = z.infer<typeof finishPreview>;
