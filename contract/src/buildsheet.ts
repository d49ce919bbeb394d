import { DRAWN_AT } from "@yosegi/core";
import { documentBrief, itemBrief } from "./brief.ts";
import { buildRow } from "./builds.ts";
import { costFigure, day, figure, moment, priceFigure, ref, version } from "./fields.ts";
import { attachedFile } from "./files.ts";
import { finishCost, finishLine } from "./finishes.ts";
import { z } from "./zod.ts";

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
  scrapped: figure.meta({ description: "Of what was used, so far" }),
  open: figure.meta({ description: "Still reserved" }),
  bench: figure.meta({ description: "Handed out and not used yet" }),
  onHand: figure.nullable().meta({ description: "Usable and not expired; null for work" }),
  added: z.boolean().meta({ description: "Not on the parts list: it came in at a finish" }),
  insteadOf: ref.nullable().meta({ description: "The line of the list whose part it replaces" }),
  listed: z.object({ item: itemBrief, need: figure }).nullable().meta({
    description:
      "What the parts list plans here, where the build has parts of its own; null: not on the list",
  }),
  substitutes: z
    .array(
      z.object({
        item: itemBrief,
        factor: figure.meta({ description: "So many of it for one of the part" }),
        free: figure,
      }),
    )
    .meta({ description: "What may be taken instead" }),
  purchases: z
    .array(documentBrief.extend({ stage: z.string(), quantity: figure, expected: day.nullable() }))
    .meta({ description: "What is on order or on drafts of it for this build, and not received" }),
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

/** Numbers as they are offered for what is finished today. */
export const nextNumbers = z.object({
  suggestedLot: z.string().meta({ description: "The next lot by the product's pattern; empty: no lots" }),
  suggestedExpiry: day.nullable().meta({ description: "Today and the shelf life" }),
  suggestedSerial: z.string().meta({ description: "The next serial number of the product; empty: none yet" }),
});

export const buildSheet = buildRow
  .extend({
    version,
    note: z.string(),
    open: figure.meta({ description: "Units still to be made" }),
    takenApart: figure.meta({ description: "Of the good units, those taken apart since" }),
    lines: z.array(buildLine),
    price: priceFigure.nullable(),
    wanted: figure.meta({ description: "Good units asked for; `quantity` is how many are started for them" }),
    list: z
      .object({ id: ref, name: z.string(), main: z.boolean(), revision: z.int(), revisionId: ref })
      .nullable()
      .meta({ description: "The parts list and the revision it is built by" }),
    instructions: z.string().meta({ description: "Of its parts list: how it is put together" }),
    lists: z
      .array(z.object({ id: ref, name: z.string() }))
      .meta({ description: "The lists it may be built by" }),
    ownParts: z.boolean().meta({ description: "Its parts are its own, not as the list says" }),
    leftOut: z
      .array(z.object({ item: itemBrief, need: figure, unit: z.string() }))
      .meta({ description: "Parts of the list that it takes none of" }),
    options: z
      .array(z.object({ item: ref, code: z.string(), name: z.string(), chosen: z.boolean() }))
      .meta({ description: "Optional parts of its list" }),
    history: z.array(
      z.object({
        what: z.enum(["created", "queued", "on the bench", "finished", "cancelled"]),
        person: z.string(),
        moment,
      }),
    ),
    finishes: z.array(finishRecord),
    store: z.string().meta({ description: "Where its product goes" }),
    bin: z.string(),
    files: z.array(attachedFile),
    picture: ref.nullable().meta({ description: "File of the product's picture" }),
    ...nextNumbers.shape,
    fee: z
      .object({
        total: costFigure,
        orders: z.array(documentBrief.extend({ total: costFigure })),
      })
      .meta({ description: "Purchase lines for work on this build by the subcontractor" }),
    splitFrom: documentBrief.nullable(),
    joinedInto: documentBrief.nullable(),
    asBuilt: documentBrief
      .nullable()
      .meta({ description: "The build whose actual quantities it takes over" }),
    benchPlace: z.string().meta({ description: "Where handed-out parts lie" }),
  })
  .meta({ id: "BuildSheet" });

export type BuildSheet = z.infer<typeof buildSheet>;

/** Parts that left the store for a build together. */
export const handOut = z
  .object({
    n: z.int().meta({ description: "Which of the build's" }),
    number: z.string(),
    posting: ref.nullable(),
    round: documentBrief.nullable().meta({ description: "The pick round that fetched them" }),
    units: figure.nullable().meta({ description: "Parts for so many units; null: for all that was open" }),
    note: z.string(),
    moment,
    day,
    person: z.string(),
    undone: z.boolean(),
    parts: z.array(
      z.object({ item: itemBrief, lot: z.string(), serial: z.string(), from: z.string(), quantity: figure }),
    ),
  })
  .meta({ id: "HandOut" });
export type HandOut = z.infer<typeof handOut>;
