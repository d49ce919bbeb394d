import type { Parsed } from "./amounts.ts";
import { documentBrief, itemBrief } from "./brief.ts";
import { buildRow } from "./builds.ts";
import {
  cost,
  costFigure,
  day,
  figure,
  id,
  moment,
  name,
  once,
  quantity,
  quantityOrZero,
  ref,
  wholeNumber,
} from "./fields.ts";
import { ask, askWith, command } from "./route.ts";
import { z } from "./zod.ts";

const wantedUnit = {
  item: ref.meta({ description: "A product, or a kit" }),
  quantity,
  day: day.nullable().default(null).meta({ description: "Wanted on; null: no day" }),
  list: ref.nullable().default(null).meta({ description: "One of the product's lists; null: the main one" }),
  options: z.array(ref).default([]).meta({ description: "Items of the optional parts taken" }),
};

export const coverDemand = z.object({
  ...wantedUnit,
  priority: wholeNumber("The priority", 9).default(1).meta({ description: "1 is served first" }),
  build: ref
    .nullable()
    .default(null)
    .meta({ description: "The build it stands for: what that has reserved does not count against it" }),
  instead: z
    .array(
      z.object({
        part: ref,
        by: ref,
        shortOnly: z
          .boolean()
          .default(false)
          .meta({ description: "Only for what is short of the part; false: for all of it" }),
      }),
    )
    .default([])
    .meta({ description: "Allowed substitutes taken instead of parts" }),
});

export type CoverDemand = z.infer<typeof coverDemand>;
/** The same with its amounts parsed. */
export type DemandInput = Parsed<typeof coverDemand>;

/** What is asked, and what is supposed to be otherwise than it is; nothing of it is written anywhere. */
export const coverQuestion = z.object({
  demands: z
    .array(coverDemand)
    .min(1, "What is wanted?")
    .max(200, "Up to 200 products at once.")
    .check(once((demand) => demand.build, "This build is named")),
  store: z.string().default("").meta({ description: "Only stock of this store; empty: of all" }),
  stock: z
    .array(z.object({ item: ref, onHand: quantityOrZero }))
    .default([])
    .meta({ description: "What if so much were on hand" }),
  incoming: z
    .array(z.object({ key: z.string().max(60), day }))
    .default([])
    .meta({ description: "What if this came on another day" }),
});

export type CoverQuestion = z.infer<typeof coverQuestion>;
/** The same with its amounts parsed. */
export type QuestionInput = Parsed<typeof coverQuestion>;

const incoming = z.object({
  key: z.string(),
  document: z.string(),
  purchase: ref.nullable(),
  build: ref.nullable(),
  quantity: figure,
  day: day.nullable(),
  overdue: z.boolean(),
});

export const partCover = itemBrief
  .extend({
    bin: z.string().meta({ description: "Home bin" }),
    need: figure,
    stocked: z.boolean().meta({ description: "false: not stock-tracked, so it has a need and no stock" }),
    onHand: figure,
    expired: figure,
    reserved: figure,
    free: figure,
    incoming: z.array(incoming),
    incomingTotal: figure,
    shortNow: figure,
    shortOnDay: figure.meta({ description: "Short on the day it is needed, after what comes until then" }),
    leftOver: figure,
    day: day.nullable().meta({ description: "From when it is available for all; null: unknown" }),
    freshDay: day.nullable().meta({ description: "When a fresh order would be there, where that is sooner" }),
    orderBy: day.nullable(),
    supplier: z.object({ id: ref, name: z.string() }).nullable(),
    canBeBuilt: z.boolean().meta({ description: "The part has a parts list of its own" }),
    shortTogether: z.boolean().meta({ description: "Enough for each demand alone, and not for all" }),
    tooLate: z.array(z.object({ document: z.string(), quantity: figure, day: day.nullable() })),
    reach: figure
      .nullable()
      .meta({ description: "Of a check of one product: units that free stock allows; null: no limit" }),
    reachInTime: figure.nullable(),
    limiting: z.boolean(),
  })
  .meta({ id: "PartCover" });

export type PartCoverAnswer = z.infer<typeof partCover>;

export const demandCover = z.object({
  item: itemBrief,
  wanted: figure,
  started: figure.meta({ description: "Units to start so that as many come out good" }),
  filled: z
    .object({ batches: figure, quantity: figure })
    .nullable()
    .meta({ description: "The build rounded up to whole batches; null where there is nothing to round" }),
  day: day.nullable(),
  startDay: day.nullable(),
  priority: z.int(),
  build: documentBrief.nullable(),
  makesNow: figure.nullable().meta({ description: "In its turn; null: nothing limits" }),
  limiting: z.array(ref),
  finish: day.nullable().meta({ description: "When all of it could be finished; null: unknown" }),
  unknown: z.array(ref).meta({ description: "Parts whose day is unknown" }),
  finishedFree: figure.meta({ description: "Finished units that are free; shown beside, not deducted" }),
  short: z.array(ref).meta({ description: "Parts that are short now" }),
  list: ref.nullable(),
  lists: z.array(z.object({ id: ref, name: z.string() })),
  options: z
    .array(z.object({ item: ref, name: z.string(), chosen: z.boolean() }))
    .meta({ description: "Optional parts of its list" }),
  substitutes: z
    .array(z.object({ part: ref, by: ref, name: z.string(), chosen: z.boolean() }))
    .meta({ description: "What may be taken instead of its parts" }),
});

export type DemandCoverAnswer = z.infer<typeof demandCover>;

const onDrafts = z
  .array(z.object({ document: z.string(), quantity: figure }))
  .meta({ description: "What stands on drafts already; the suggestion is less by it" });

export const coverOrder = z.object({
  item: itemBrief,
  supplier: z.object({ id: ref, name: z.string() }).nullable(),
  web: z.string().meta({ description: "Where the supplier sells it on the web; empty: nowhere" }),
  short: figure,
  quantity: figure.meta({ description: "As the supplier sells it: at least its minimum, in its multiples" }),
  price: costFigure.nullable(),
  pricePer: z.string(),
  cost: costFigure.nullable(),
  onDrafts,
  orderBy: day.nullable(),
  arrives: day.nullable().meta({ description: "If it is ordered today" }),
  for: z.array(z.object({ demand: z.int(), quantity: figure })),
});

export type CoverOrder = z.infer<typeof coverOrder>;

export const coverBuild = z.object({
  item: itemBrief,
  short: figure,
  quantity: figure.meta({ description: "To be built: what is short, less what stands on drafts" }),
  onDrafts,
  makesNow: figure.nullable(),
  finish: day.nullable(),
  needed: day.nullable(),
});

export const coverAnswer = z
  .object({
    demands: z.array(demandCover),
    parts: z.array(partCover),
    orders: z.array(coverOrder),
    builds: z
      .array(coverBuild)
      .meta({ description: "Short parts that are built themselves, to be built first" }),
    finish: day.nullable(),
    spending: costFigure
      .nullable()
      .meta({ description: "What the orders cost; null where a price is missing" }),
  })
  .meta({ id: "Cover" });

export type CoverAnswer = z.infer<typeof coverAnswer>;

export const expectedAnswer = z
  .object({
    work: z.array(z.object({ name: z.string(), quantity: figure, unit: z.string() })),
    cost: z.object({ total: costFigure, each: costFigure, unknown: z.array(z.string()) }),
  })
  .meta({ id: "Expected" });

export type ExpectedAnswer = z.infer<typeof expectedAnswer>;

export const stockDay = z.object({
  day,
  stock: figure,
  events: z.array(
    z.object({
      document: z.string(),
      purchase: ref.nullable(),
      build: ref.nullable(),
      order: ref.nullable(),
      change: figure,
    }),
  ),
});

export const partTimeline = z
  .object({
    item: itemBrief,
    level: figure.nullable(),
    days: z.array(stockDay),
    undated: stockDay.shape.events,
    firstBelowZero: day.nullable(),
    firstBelowLevel: day.nullable(),
  })
  .meta({ id: "PartTimeline" });

export type PartTimeline = z.infer<typeof partTimeline>;

export const savedCheck = z.object({
  id: ref,
  name: z.string(),
  question: coverQuestion,
  person: z.string(),
  moment,
});

export type SavedCheck = z.infer<typeof savedCheck>;

/** A question in an address: JSON text. */
const questionText = z
  .string()
  .max(20_000)
  .transform((text, ctx): unknown => {
    try {
      return JSON.parse(text);
    } catch {
      ctx.addIssue({ code: "custom", message: "The question is no JSON." });
      return z.NEVER;
    }
  })
  .pipe(coverQuestion);

export const TABLE_FORMATS = ["csv", "xlsx"] as const;

export const coverRoutes = {
  cover: askWith("/api/cover", {
    permission: "look",
    summary: "Whether stock and what comes cover what is wanted, what stops it, and when it could be done",
    body: coverQuestion,
    answer: coverAnswer,
  }),
  expected: ask("/api/cover/expected/:id", {
    permission: "look",
    summary: "What so many of a product are expected to cost, and how much work they take",
    params: z.object({ id }),
    query: z.object({ quantity, list: id.optional() }),
    answer: expectedAnswer,
  }),
  partTimeline: askWith("/api/cover/timeline", {
    permission: "look",
    summary: "One item's stock day by day, with every receipt and need, those asked for too",
    body: coverQuestion.extend({ demands: z.array(coverDemand).max(200), item: ref }),
    answer: partTimeline,
  }),
  openDemands: ask("/api/cover/open", {
    permission: "look",
    summary: "Open builds, and what open orders miss, as demands to be checked together",
    answer: z.object({
      demands: z.array(
        coverDemand.extend({ code: z.string(), name: z.string(), number: z.string(), stage: z.string() }),
      ),
    }),
  }),
  solveByDay: askWith("/api/cover/by-day", {
    permission: "look",
    summary: "How many of the first product could be finished by a day",
    body: z.object({ question: coverQuestion, day }),
    answer: z.object({ quantity: figure.nullable().meta({ description: "null: no limit" }) }),
  }),
  solveBySum: askWith("/api/cover/by-sum", {
    permission: "look",
    summary: "How many of the first product could be made if at most so much is spent on missing parts",
    body: z.object({ question: coverQuestion, sum: cost }),
    answer: z.object({ quantity: figure.nullable().meta({ description: "null: no limit" }) }),
  }),
  exportCover: ask("/api/cover/export", {
    permission: "look",
    summary: "The parts of a check as a spreadsheet",
    query: z.object({ question: questionText, format: z.enum(TABLE_FORMATS) }),
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
  makeBuilds: command("/api/cover/builds", {
    permission: "plan",
    summary: "Make a build of each demand, and queue them where asked",
    body: z.object({
      demands: z
        .array(
          z.object({
            ...wantedUnit,
            instead: coverDemand.shape.instead.meta({
              description: "With substitutes the build has parts of its own",
            }),
          }),
        )
        .min(1, "Nothing to build.")
        .max(200),
      store: z.string().default("").meta({ description: "Only stock of this store tells what is short" }),
      queue: z.boolean(),
    }),
    answer: z.object({ builds: z.array(buildRow) }),
  }),
  savedChecks: ask("/api/checks", {
    permission: "look",
    summary: "Checks that were kept by name",
    answer: z.object({ checks: z.array(savedCheck) }),
  }),
  saveCheck: command("/api/checks", {
    permission: "look",
    summary: "Keep a check by name; the same name is written anew",
    body: z.object({ name, question: coverQuestion }),
    answer: savedCheck,
  }),
  removeCheck: command("/api/checks/:id/remove", {
    permission: "look",
    summary: "Remove a saved check",
    params: z.object({ id }),
    answer: z.object({}),
  }),
};
