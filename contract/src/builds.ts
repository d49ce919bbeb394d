import { BUILD_STAGES } from "@yosegi/core";
import type { Parsed } from "./amounts.ts";
import { firmBrief, itemBrief, personBrief } from "./brief.ts";
import { bin, chosen, day, figure, note, once, quantity, ref, short, wholeNumber } from "./fields.ts";
import { z } from "./zod.ts";

export const buildStage = z.enum(BUILD_STAGES);

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
    subcontractor: firmBrief
      .nullable()
      .meta({ description: "The subcontractor that does it; null: our own bench" }),
    recurring: z.boolean().meta({ description: "Created by a recurring build" }),
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
export const buildSummary = buildRow
  .omit({ waitsFor: true, overdue: true, late: true, ready: true, blocked: true })
  .meta({ id: "Build" });

export type BuildSummary = z.infer<typeof buildSummary>;

/** A part of one build alone: so much of it for the whole build. */
export const ownPart = z.object({
  line: ref.nullable().default(null).meta({
    description: "The build's line that it stands in, also with another item; null: a part that is added",
  }),
  item: chosen("a part"),
  quantity: quantity.meta({
    description: "For the whole build, in the part's stock unit; of work in the unit of its line",
  }),
  note,
});

export const ownParts = z
  .array(ownPart)
  .min(1, "Add at least one part.")
  .max(500)
  .check(once((part) => part.line, "This line is named"));

export type OwnPart = z.infer<typeof ownPart>;
/** The same with its amounts parsed. */
export type OwnPartInput = Parsed<typeof ownPart>;

export const newBuild = z.object({
  product: chosen("a product"),
  quantity: quantity.meta({ description: "Good units wanted" }),
  due: day.nullable(),
  note,
  list: ref.nullable().default(null).meta({ description: "One of the product's lists; null: the main one" }),
  options: z.array(ref).default([]).meta({ description: "Items of the optional parts it takes" }),
  parts: ownParts.nullable().default(null).meta({
    description:
      "Parts of this build alone, of a product that may have no parts list; null: as the list says",
  }),
  priority: wholeNumber("The priority", 9)
    .min(1, "The priority is 1 to 9.")
    .default(1)
    .meta({ description: "1 is served first" }),
  assigned: ref.nullable().default(null).meta({ description: "The person who is to do it" }),
  costTag: short("The cost tag").default(""),
  customer: ref.nullable().default(null),
  subcontractor: ref
    .nullable()
    .default(null)
    .meta({ description: "A supplier who does it; null: our own bench" }),
  store: z.string().default("").meta({ description: "Where its product goes; empty: the item's home" }),
  bin: bin.default(""),
});

export type NewBuild = z.infer<typeof newBuild>;
/** The same with its amounts parsed. */
export type BuildInput = Parsed<typeof newBuild>;

/** What a build says beside its product and quantity, where nobody says otherwise. */
export const PLAIN_BUILD = {
  due: null,
  note: "",
  list: null,
  options: [],
  parts: null,
  priority: 1,
  costTag: "",
  store: "",
  bin: "",
  assigned: null,
  customer: null,
  subcontractor: null,
} satisfies Omit<NewBuild, "product" | "quantity">;
