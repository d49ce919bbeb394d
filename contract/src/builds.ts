import { BUILD_STAGES, DRAWN_AT } from "@yosegi/core";
import { z } from "zod";
import { firmBrief, itemBrief } from "./brief.ts";
import { partShort } from "./errors.ts";
import {
  bin,
  cost,
  day,
  endedCount,
  endedLimit,
  figure,
  id,
  lot,
  moment,
  note,
  once,
  quantity,
  quantityOrZero,
  ref,
  serial,
  short,
  wholeNumber,
} from "./fields.ts";
import { attachedFile } from "./files.ts";
import { ask, askWith, command, replace } from "./route.ts";

export const buildStage = z.enum(BUILD_STAGES);

export const personBrief = z.object({ id: ref, name: z.string() });

/** An order that a build works for. */
export const orderLink = z.object({
  order: ref,
  number: z.string(),
  line: ref,
  customer: firmBrief,
  due: day.nullable(),
  quantity: figure.meta({ description: "Units of the build that are for it" }),
});
export type OrderLink = z.infer<typeof orderLink>;

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
    start: day.nullable().meta({ description: "The due day less the product's build days" }),
    priority: z.int().meta({ description: "1 is served first" }),
    assigned: personBrief.nullable(),
    costTag: z.string(),
    customer: firmBrief.nullable().meta({ description: "For whom it is built, where no order says so" }),
    orders: z.array(orderLink).meta({ description: "The customers' orders it serves" }),
    outside: firmBrief.nullable().meta({ description: "The workshop that does it; null: our own bench" }),
    standing: z.boolean().meta({ description: "Made by a standing build" }),
    waitsFor: z
      .array(z.string())
      .meta({ description: "Names of parts it cannot get enough of, in its turn" }),
    overdue: z.boolean(),
    late: z.boolean().meta({ description: "Its start day is past and it is not begun" }),
    ready: z.boolean().meta({ description: "All it still has to take is there, in its turn" }),
    blocked: z.boolean().meta({ description: "It is queued or on the bench and waits for parts" }),
  })
  .meta({ id: "BuildRow" });
export type BuildRow = z.infer<typeof buildRow>;

/** A build as a step leaves it: all that is its own, without how it stands beside the others. */
export const buildLeft = buildRow
  .omit({ waitsFor: true, overdue: true, late: true, ready: true, blocked: true })
  .meta({ id: "Build" });
export type BuildLeft = z.infer<typeof buildLeft>;

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
  wasted: figure.meta({ description: "Of what was used, what went into no unit" }),
  difference: figure,
  fromBench: figure.meta({ description: "Of what was used, what had been handed out" }),
  back: figure.meta({ description: "What goes back from the bench to its bins" }),
  cost: figure,
  differenceCost: figure,
  taken: z.array(taken),
});

const finishCost = z.object({
  parts: figure,
  work: figure,
  overhead: figure,
  extra: figure,
  outside: figure.meta({ description: "The fee of the outside workshop" }),
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
  wasted: figure.meta({ description: "Of what was used, so far" }),
  open: figure.meta({ description: "Still reserved" }),
  bench: figure.meta({ description: "Handed out and not used yet" }),
  onHand: figure.nullable().meta({ description: "Usable and not expired; null for work" }),
  added: z.boolean().meta({ description: "Not on the parts list: it came in at a finish" }),
  insteadOf: ref.nullable().meta({ description: "The line of the list whose part it replaces" }),
  substitutes: z
    .array(
      z.object({
        item: itemBrief,
        factor: figure.meta({ description: "So many of it for one of the part" }),
        free: figure,
      }),
    )
    .meta({ description: "What may be taken instead" }),
  choices: z
    .array(
      z.object({
        code: z.string().meta({ description: "Lot or serial number" }),
        quantity: figure,
        expiry: day.nullable(),
        bench: z.boolean(),
        store: z.string(),
        bin: z.string(),
      }),
    )
    .meta({ description: "Lots or serials there are, in the suggested order" }),
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
  serialParts: z.array(z.object({ serial: z.string(), item: ref, part: z.string() })),
  store: z.string(),
  bin: z.string(),
  lines: z.array(finishLine.omit({ taken: true }).extend({ reason: z.string() })),
  work: z.array(z.object({ line: ref, person: z.string(), quantity: figure })),
  counts: z.array(z.object({ item: z.string(), difference: figure, unit: z.string(), reason: z.string() })),
  cost: finishCost,
  undone: z.object({ person: z.string(), moment }).nullable(),
});
export type FinishRecord = z.infer<typeof finishRecord>;

const buildBrief = z.object({ id: ref, number: z.string() });

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
      z.object({
        what: z.enum(["made", "queued", "on the bench", "finished", "cancelled"]),
        person: z.string(),
        moment,
      }),
    ),
    finishes: z.array(finishRecord),
    store: z.string().meta({ description: "Where its product goes" }),
    bin: z.string(),
    files: z.array(attachedFile),
    picture: ref.nullable().meta({ description: "File of the product's picture" }),
    suggestedLot: z.string().meta({ description: "The next lot by the product's pattern; empty: no lots" }),
    suggestedExpiry: day.nullable().meta({ description: "Today and the shelf life" }),
    suggestedSerial: z
      .string()
      .meta({ description: "The next serial number of the product; empty: none yet" }),
    fee: z
      .object({ total: figure, orders: z.array(z.object({ id: ref, number: z.string(), total: figure })) })
      .meta({ description: "Purchase lines for work on this build by the outside workshop" }),
    splitFrom: buildBrief.nullable(),
    joinedInto: buildBrief.nullable(),
    asBuilt: buildBrief.nullable().meta({ description: "The build whose actual quantities it takes over" }),
    benchPlace: z.string().meta({ description: "Where handed-out parts lie" }),
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
  priority: wholeNumber("The priority", 9)
    .min(1, "The priority is 1 to 9.")
    .default(1)
    .meta({ description: "1 is served first" }),
  assigned: ref.nullable().default(null).meta({ description: "The person who is to do it" }),
  costTag: short("The cost tag").default(""),
  customer: ref.nullable().default(null),
  outside: ref.nullable().default(null).meta({ description: "A supplier who does it; null: our own bench" }),
  store: z.string().default("").meta({ description: "Where its product goes; empty: the item's home" }),
  bin: bin.default(""),
});
export type NewBuild = z.infer<typeof newBuild>;

/** What a build says beside its product and quantity, where nobody says otherwise. */
export const PLAIN_BUILD = {
  due: null,
  note: "",
  list: null,
  options: [],
  priority: 1,
  costTag: "",
  store: "",
  bin: "",
  assigned: null,
  customer: null,
  outside: null,
} satisfies Omit<NewBuild, "product" | "quantity">;

const usedOfLine = {
  used: quantityOrZero,
  wasted: quantityOrZero.default("0"),
  reason: note.default("").meta({ description: "Why some of it was wasted" }),
  only: z
    .array(z.string().max(60))
    .default([])
    .meta({ description: "Lots or serials it is taken from, in this order; none: the suggested ones" }),
};

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

const countedBin = ({ item, store, bin, lot, serial }: z.infer<typeof countBody>): string =>
  JSON.stringify([item, store.trim().toLowerCase(), bin, lot, serial]);

export const finishBody = z.object({
  good: quantityOrZero,
  rejected: quantityOrZero,
  reason: note.meta({ description: "Why units were rejected" }),
  day,
  lines: z
    .array(z.object({ line: ref, ...usedOfLine }))
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
  putBack: z.boolean().default(false).meta({ description: "What is left on the bench goes back now" }),
  store: z.string(),
  bin,
  lot: lot.meta({ description: "Of the finished units, where the product is kept by lot" }),
  expiry: day.nullable(),
  serials: z.array(serial).max(10_000),
  serialParts: z
    .array(z.object({ serial, item: ref, part: serial }))
    .max(50_000)
    .default([])
    .meta({ description: "Which part serials went into which unit; none: dealt out in turn" }),
  closeRest: z.boolean().meta({ description: "Give up what is still open after this" }),
});
export type FinishBody = z.infer<typeof finishBody>;

/** A finish that says nothing but what the plan says; its good units, day and store are left to be told. */
export const PLAIN_FINISH = {
  rejected: "0",
  reason: "",
  lines: [],
  extra: [],
  work: [],
  counts: [],
  putBack: false,
  bin: "",
  lot: "",
  expiry: null,
  serials: [],
  serialParts: [],
  closeRest: false,
} satisfies Omit<FinishBody, "good" | "day" | "store">;

/** What a line says where only its used figure is told. */
export const PLAIN_LINE = { wasted: "0", reason: "", only: [] } satisfies Partial<
  FinishBody["lines"][number]
>;

export const finishPreview = z.object({
  lines: z.array(finishLine),
  cost: finishCost.nullable().meta({ description: "null where the books hold too little" }),
  shorts: z.array(partShort),
  largest: figure.nullable(),
  noCost: z.array(z.string()).meta({ description: "Parts that carry no cost" }),
  low: z
    .array(z.object({ name: z.string(), free: figure, level: figure, unit: z.string() }))
    .meta({ description: "Parts that are below their reorder level after this" }),
});
export type FinishPreview = z.infer<typeof finishPreview>;

const one = { params: z.object({ id }) };
const ids = z
  .string()
  .regex(/^\d{1,9}(,\d{1,9}){0,199}$/, "Ids are numbers with commas between them.")
  .transform((text) => text.split(",").map(Number));

export const buildRoutes = {
  builds: ask("/api/builds", {
    summary: "Builds, overdue first",
    query: z.object({
      stage: buildStage.optional(),
      product: id.optional(),
      person: id.optional(),
      tag: z.string().max(60).optional(),
      ended: endedLimit,
    }),
    answer: z.object({ builds: z.array(buildRow), ended: endedCount }),
  }),
  build: ask("/api/builds/:id", {
    summary: "One build, with its parts and what it cost",
    ...one,
    answer: buildSheet,
  }),
  newBuild: command("/api/builds", { summary: "Make a draft build", body: newBuild, answer: buildLeft }),
  changeBuild: replace("/api/builds/:id", {
    summary: "Change a draft; of a build that is queued, all but its quantity, list and options",
    ...one,
    body: newBuild.omit({ product: true }),
    answer: buildLeft,
  }),
  copyBuild: command("/api/builds/:id/copy", {
    summary: "Make a draft like an earlier build",
    ...one,
    body: z.object({
      quantity,
      due: day.nullable(),
      actual: z
        .boolean()
        .meta({ description: "Plan what that build really used, instead of the parts list" }),
    }),
    answer: buildLeft,
  }),
  splitBuild: command("/api/builds/:id/split", {
    summary: "Split so many off into a build of their own; answers with the new one",
    ...one,
    body: z.object({ quantity }),
    answer: buildLeft,
  }),
  joinBuilds: command("/api/builds/:id/join", {
    summary: "Put another draft of the same product into this one",
    ...one,
    body: z.object({ other: ref }),
    answer: buildLeft,
  }),
  queueBuild: command("/api/builds/:id/queue", {
    summary: "Queue a draft: its parts are reserved",
    ...one,
    answer: buildLeft,
  }),
  unqueueBuild: command("/api/builds/:id/unqueue", {
    summary: "Take a queued build back to a draft, where nothing is made or handed out",
    ...one,
    answer: buildLeft,
  }),
  handOut: command("/api/builds/:id/hand-out", {
    summary: "Hand out the parts drawn at pick: from their bins to the bench, or to the outside workshop",
    ...one,
    body: z.object({
      day,
      some: z.boolean().default(false).meta({ description: "Hand out what there is, where it is not all" }),
    }),
    answer: buildLeft,
  }),
  putBack: command("/api/builds/:id/put-back", {
    summary: "Put what lies on the bench back to its bins; it is reserved again",
    ...one,
    body: z.object({ day }),
    answer: buildLeft,
  }),
  cancelBuild: command("/api/builds/:id/cancel", {
    summary: "Cancel a build: its reservations and handed-out parts go back",
    ...one,
    answer: buildLeft,
  }),
  previewFinish: askWith("/api/builds/:id/finish-preview", {
    summary: "What a finish would take and cost; records nothing",
    ...one,
    body: finishBody.pick({
      good: true,
      rejected: true,
      lines: true,
      extra: true,
      work: true,
      counts: true,
      day: true,
      putBack: true,
      closeRest: true,
    }),
    answer: finishPreview,
  }),
  finishBuild: command("/api/builds/:id/finish", {
    summary: "Finish all or some of a build: the product arrives with its cost, the parts leave",
    ...one,
    body: finishBody,
    answer: buildLeft,
  }),
  undoFinish: command("/api/builds/:id/undo-finish", {
    summary: "Take the last finish back, or all of them, exactly mirrored",
    ...one,
    body: z.object({ all: z.boolean().default(false) }),
    answer: buildLeft,
  }),
  linkableOrders: ask("/api/builds/:id/orders", {
    summary: "Lines of open orders that ask for its product and that it does not serve yet",
    ...one,
    answer: z.object({ lines: z.array(orderLink.omit({ quantity: true }).extend({ open: figure })) }),
  }),
  linkOrder: command("/api/builds/:id/orders", {
    summary: "Let a build work for a line of an order; also once it is queued, on the bench or finished",
    ...one,
    body: z.object({
      line: ref,
      quantity: quantity
        .nullable()
        .default(null)
        .meta({ description: "null: as many as the line still asks for, as far as the build goes" }),
    }),
    answer: buildLeft,
  }),
  unlinkOrder: command("/api/builds/:id/orders/unlink", {
    summary: "Let a build work for a line no more",
    ...one,
    body: z.object({ line: ref }),
    answer: buildLeft,
  }),
  usedSerials: ask("/api/builds/:id/used-serials", {
    summary: "Which serial numbers of its product are used already",
    ...one,
    answer: z.object({ serials: z.array(z.string()) }),
  }),
  buildPaper: ask("/api/build-sheets", {
    summary: "Build sheets as PDF, one after the other",
    query: z.object({ ids }),
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
};
