import { REWORK_OUTCOMES, REWORK_STATES, STEP_STATES } from "@yosegi/core";
import { documentBrief, firmBrief, itemBrief, personBrief } from "./brief.ts";
import { costFigure, day, figure, moment, priceFigure, ref, taxFigures, version } from "./fields.ts";
import { content } from "./pieces.ts";
import { z } from "./zod.ts";

const stepFields = {
  id: ref,
  what: z.string(),
  person: personBrief.nullable(),
  supplier: firmBrief.nullable(),
  due: day.nullable(),
  hour: z.string(),
  state: z.enum(STEP_STATES),
  isLate: z.boolean(),
};

const taxRate = figure.meta({ description: "The tax on the charge, in percent" });

const step = z.object({
  ...stepFields,
  version,
  service: itemBrief.nullable(),
  purchase: documentBrief.nullable(),
  planned: costFigure,
  actual: costFigure.nullable(),
  unit: ref.nullable(),
  charge: priceFigure,
  taxRate,
  agreedCharge: priceFigure.nullable().meta({ description: "The charge as typed; null: what it costs" }),
});
export type ReworkStep = z.infer<typeof step>;

const part = z.object({
  id: ref,
  item: itemBrief.nullable(),
  text: z.string(),
  quantity: figure,
  lot: z.string(),
  serial: z.string(),
  from: z.string(),
  isTaken: z.boolean().meta({ description: "It lies with the rework; else it is planned" }),
  value: costFigure.meta({ description: "What it carried, or, while planned, what it costs now" }),
  unit: ref.nullable(),
  step: ref.nullable(),
  charge: priceFigure,
  taxRate,
  substitutes: z
    .array(z.object({ item: itemBrief, quantity: figure, free: figure }))
    .meta({ description: "While planned: what the item's parts list allows in its place, and how much" }),
});
export type ReworkPart = z.infer<typeof part>;

const unit = z.object({
  unit: ref,
  lot: z.string(),
  serial: z.string(),
  quantity: figure,
  from: z.string(),
  valueIn: costFigure,
  value: costFigure.meta({ description: "What it carries by now, or carried when it came out" }),
  outcome: z.enum(REWORK_OUTCOMES).nullable(),
  item: itemBrief.nullable().meta({ description: "What it came out as" }),
  place: z.string().meta({ description: "Where it went" }),
  reason: z.string(),
  price: priceFigure.nullable(),
  recovered: z.array(
    z.object({
      item: itemBrief,
      quantity: figure,
      lot: z.string(),
      serial: z.string(),
      place: z.string(),
      value: costFigure,
    }),
  ),
});
export type ReworkUnit = z.infer<typeof unit>;

export const reworkRow = z
  .object({
    id: ref,
    number: z.string(),
    item: itemBrief,
    quantity: figure,
    serials: z.array(z.string()),
    customer: firmBrief.nullable(),
    isTheirs: z.boolean(),
    due: day.nullable(),
    isLate: z.boolean(),
    assigned: personBrief.nullable(),
    reason: z.string(),
    state: z.enum(REWORK_STATES),
    undone: z.object({ person: z.string(), moment }).nullable(),
  })
  .meta({ id: "ReworkRow" });
export type ReworkRow = z.infer<typeof reworkRow>;

export const reworkSheet = reworkRow
  .extend({
    version,
    at: z.string().meta({ description: "Where it lies" }),
    day,
    person: z.string(),
    moment,
    costTag: z.string(),
    finished: z.object({ day, person: z.string(), moment }).nullable(),
    agreed: z
      .object({
        person: z.string(),
        moment,
        since: priceFigure.meta({ description: "What they pay for lines that came, or changed, after that" }),
      })
      .nullable()
      .meta({ description: "The customer agreed to the quote" }),
    valueIn: costFigure,
    soFar: costFigure.meta({ description: "Parts taken, lines of text, and steps that are done" }),
    toCome: costFigure.meta({ description: "Parts and steps still to come, as planned" }),
    price: priceFigure.nullable().meta({ description: "What all units are to be sold for; null: not known" }),
    charge: priceFigure.meta({ description: "What a customer pays for parts and steps" }),
    taxes: taxFigures,
    gross: priceFigure.nullable().meta({ description: "The charge with tax" }),
    units: z.array(unit),
    parts: z.array(part),
    steps: z.array(step),
  })
  .meta({ id: "ReworkSheet" });
export type ReworkSheet = z.infer<typeof reworkSheet>;

export const listedStep = z
  .object({ ...stepFields, rework: documentBrief, item: itemBrief })
  .meta({ id: "ListedStep" });
export type ListedStep = z.infer<typeof listedStep>;

export const heldUnit = z
  .object({
    item: itemBrief,
    serial: z.string(),
    since: day.nullable(),
    warrantyUntil: day.nullable(),
    contents: z
      .array(content)
      .meta({ description: "What is inside, as it was built or somebody wrote it down" }),
    byHand: z.boolean().meta({ description: "We never shipped it: somebody wrote it down" }),
    note: z.string(),
    reworks: z.array(documentBrief),
  })
  .meta({ id: "HeldUnit" });
export type HeldUnit = z.infer<typeof heldUnit>;
