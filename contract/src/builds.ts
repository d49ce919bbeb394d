import { BUILD_STAGES, DRAWN_AT } from "@yosegi/core";
import { z } from "zod";
import { itemBrief } from "./brief.ts";
import { partShort } from "./errors.ts";
import { bin, day, figure, id, lot, moment, note, quantity, quantityOrZero, ref, serial } from "./fields.ts";
import { ask, askWith, command, replace } from "./route.ts";

export const buildStage = z.enum(BUILD_STAGES);

export const buildRow = z
  .object({
    id: ref,
    number: z.string(),
    product: itemBrief,
    quantity: figure,
    good: figure,
    rejected: figure,
    stage: buildStage,
    due: day.nullable(),
    waitsFor: z
      .array(z.string())
      .meta({ description: "Names of parts it cannot get enough of, in its turn" }),
  })
  .meta({ id: "BuildRow" });
export type BuildRow = z.infer<typeof buildRow>;

const taken = z.object({
  store: z.string(),
  bin: z.string(),
  lot: z.string(),
  serial: z.string(),
  quantity: figure,
});

export const finishLine = z.object({
  line: ref,
  planned: figure,
  used: figure,
  difference: figure,
  cost: figure,
  differenceCost: figure,
  taken: z.array(taken),
});

const finishCost = z.object({
  parts: figure,
  work: figure,
  overhead: figure,
  extra: figure,
  total: figure,
  each: figure.nullable(),
});

export const buildLine = z.object({
  line: ref,
  item: itemBrief,
  service: z.boolean(),
  stocked: z.boolean(),
  drawnAt: z.enum(DRAWN_AT),
  store: z.string().meta({ description: "Where it is taken from" }),
  note: z.string(),
  unit: z.string().meta({ description: "Unit of the figures of this line" }),
  decimals: z.int(),
  bin: z.string(),
  need: figure.meta({ description: "For the whole build" }),
  used: figure.meta({ description: "So far" }),
  open: figure.meta({ description: "Still reserved" }),
  onHand: figure.nullable().meta({ description: "Usable and not expired; null for work" }),
});

export const finishRecord = z.object({
  id: ref,
  moment,
  day,
  person: z.string(),
  good: figure,
  rejected: figure,
  reason: z.string(),
  lot: z.string(),
  expiry: day.nullable(),
  serials: z.array(z.string()),
  store: z.string(),
  bin: z.string(),
  lines: z.array(finishLine.omit({ taken: true })),
  cost: finishCost,
});
export type FinishRecord = z.infer<typeof finishRecord>;

export const buildSheet = buildRow
  .extend({
    note: z.string(),
    open: figure.meta({ description: "Units still to be made" }),
    lines: z.array(buildLine),
    price: figure.nullable(),
    wanted: figure.meta({ description: "Good units asked for; `quantity` is how many are started for them" }),
    list: z
      .object({ id: ref, name: z.string(), main: z.boolean(), revision: z.int(), revisionId: ref })
      .nullable()
      .meta({ description: "The parts list and the revision it is built by" }),
    lists: z
      .array(z.object({ id: ref, name: z.string() }))
      .meta({ description: "The lists it may be built by" }),
    options: z
      .array(z.object({ item: ref, code: z.string(), name: z.string(), chosen: z.boolean() }))
      .meta({ description: "Optional parts of its list" }),
    history: z.array(
      z.object({ what: z.enum(["made", "queued", "finished", "cancelled"]), person: z.string(), moment }),
    ),
    finishes: z.array(finishRecord),
    store: z.string().meta({ description: "Where its product goes by default" }),
    bin: z.string(),
  })
  .meta({ id: "BuildSheet" });
export type BuildSheet = z.infer<typeof buildSheet>;

export const newBuild = z.object({
  product: ref,
  quantity: quantity.meta({ description: "Good units wanted" }),
  due: day.nullable(),
  note,
  list: ref.nullable().default(null).meta({ description: "One of the product's lists; null: the main one" }),
  options: z.array(ref).default([]).meta({ description: "Items of the optional parts it takes" }),
});
export const finishBody = z.object({
  good: quantityOrZero,
  rejected: quantityOrZero,
  reason: note.meta({ description: "Why units were rejected" }),
  day,
  lines: z
    .array(z.object({ line: ref, used: quantityOrZero }))
    .meta({ description: "Lines left out take their planned figure" }),
  store: z.string(),
  bin,
  lot: lot.meta({ description: "Of the finished units, where the product is kept by lot" }),
  expiry: day.nullable(),
  serials: z.array(serial).max(10_000),
  closeRest: z.boolean().meta({ description: "Give up what is still open after this" }),
});
export type FinishBody = z.infer<typeof finishBody>;

export const finishPreview = z.object({
  lines: z.array(finishLine),
  cost: finishCost.nullable().meta({ description: "null where the books hold too little" }),
  shorts: z.array(partShort),
  largest: figure.nullable(),
});
export type FinishPreview = z.infer<typeof finishPreview>;

const one = { params: z.object({ id }) };

export const buildRoutes = {
  builds: ask("/api/builds", {
    summary: "Builds, overdue first",
    query: z.object({ stage: buildStage.optional() }),
    answer: z.object({ builds: z.array(buildRow) }),
  }),
  build: ask("/api/builds/:id", {
    summary: "One build, with its parts and what it cost",
    ...one,
    answer: buildSheet,
  }),
  newBuild: command("/api/builds", { summary: "Make a draft build", body: newBuild, answer: buildRow }),
  changeBuild: replace("/api/builds/:id", {
    summary: "Change a draft's quantity, due day or note",
    ...one,
    body: newBuild.omit({ product: true }),
    answer: buildRow,
  }),
  queueBuild: command("/api/builds/:id/queue", {
    summary: "Queue a draft: its parts are reserved",
    ...one,
    answer: buildRow,
  }),
  cancelBuild: command("/api/builds/:id/cancel", {
    summary: "Cancel a build: its reservations go back",
    ...one,
    answer: buildRow,
  }),
  previewFinish: askWith("/api/builds/:id/finish-preview", {
    summary: "What a finish would take and cost; records nothing",
    ...one,
    body: finishBody.pick({ good: true, rejected: true, lines: true, day: true, closeRest: true }),
    answer: finishPreview,
  }),
  finishBuild: command("/api/builds/:id/finish", {
    summary: "Finish all or some of a build: the product arrives with its cost, the parts leave",
    ...one,
    body: finishBody,
    answer: buildRow,
  }),
};
