import { DRAWN_AT, HEAD_FIELDS, LINE_FIELDS, REVISION_STATES, STARTS } from "@yosegi/core";
import type { Parsed } from "./amounts.ts";
import { costRate, itemBrief } from "./brief.ts";
import { customValue } from "./customfields.ts";
import {
  byId,
  chosen,
  cost,
  costFigure,
  day,
  figure,
  id,
  listName,
  longText,
  moment,
  note,
  percent,
  price,
  quantity,
  ref,
  share,
  version,
  yieldPercent,
} from "./fields.ts";
import { attachedFile } from "./files.ts";
import { ask, command, replace } from "./route.ts";
import { z } from "./zod.ts";

const listPart = itemBrief.extend({
  free: figure,
  unitCost: costFigure.nullable(),
  currentCost: costRate.nullable(),
  makesNow: figure.nullable().optional(),
});

export const listLine = z.object({
  line: ref,
  part: listPart,
  quantity: figure,
  unit: z.string(),
  waste: figure,
  oncePerBuild: z.boolean(),
  optional: z.boolean(),
  drawnAt: z.enum(DRAWN_AT),
  store: z.string(),
  note: z.string(),
  share: figure.nullable(),
  person: z.string(),
  substitutes: z.array(
    itemBrief.pick({ id: true, name: true, unit: true, packs: true }).extend({
      item: z.string(),
      quantity: figure,
      free: figure,
    }),
  ),
});

export type ListLineAnswer = z.infer<typeof listLine>;

const expected = z.object({
  materials: costFigure,
  work: costFigure,
  overhead: costFigure,
  extra: costFigure,
  total: costFigure,
  each: costFigure,
  unknown: z.array(z.string()).meta({ description: "Codes of parts without a cost" }),
});

const starting = {
  starts: z.enum(STARTS, { error: `A revision starts: ${STARTS.join(", ")}.` }),
  startsOn: day.nullable(),
  startsAfter: ref.nullable().meta({ description: "The part that must have run out" }),
};

/** One revision as a list of the product's lists tells it. */
export const revisionHead = z.object({
  id: ref,
  version,
  number: z.int(),
  state: z.enum(REVISION_STATES),
  inForce: z.boolean(),
  ...starting,
  startsAfterCode: z.string(),
  made: z.object({ person: z.string(), moment }).nullable(),
  locked: z.object({ person: z.string(), moment, note: z.string() }).nullable(),
  builds: z.int().meta({ description: "Builds that used it" }),
});

export type RevisionHead = z.infer<typeof revisionHead>;

export const partsList = z
  .object({
    list: ref,
    name: z.string(),
    main: z.boolean(),
    revision: revisionHead,
    makes: figure,
    usual: figure,
    overhead: costFigure,
    extra: costFigure,
    yield: figure,
    instructions: z.string(),
    mixed: figure
      .nullable()
      .meta({ description: "Parts in the product's dimension, where they differ from what a batch makes" }),
    lines: z.array(listLine),
    expected,
    custom: z.array(customValue),
    files: z.array(attachedFile),
  })
  .meta({ id: "PartsList" });

export type PartsListAnswer = z.infer<typeof partsList>;

export const listDraft = z.object({
  list: ref
    .nullable()
    .default(null)
    .meta({ description: "Which of the product's lists; null is the main one" }),
  from: ref
    .nullable()
    .default(null)
    .meta({ description: "The revision that it was made of, where a version is said; null: there was none" }),
  makes: quantity,
  usual: quantity,
  overhead: cost.default("0"),
  extra: cost.default("0"),
  yield: yieldPercent.default("100"),
  instructions: longText("The instructions", 4000)
    .default("")
    .meta({ description: "How it is put together, in a few lines; printed on the build sheet" }),
  price: price.nullable().optional().meta({ description: "Of the product; left out where it stays" }),
  lines: z
    .array(
      z.object({
        part: z.string().trim().min(1, "Choose a part."),
        quantity,
        unit: z.string().min(1, "The unit is missing."),
        waste: percent.default("0"),
        oncePerBuild: z.boolean().default(false),
        optional: z.boolean().default(false),
        drawnAt: z.enum(DRAWN_AT).default("pick"),
        store: z.string().default(""),
        note: note.default(""),
        share: share.nullable().default(null),
        person: z.string().default(""),
        substitutes: z
          .array(z.object({ item: z.string().trim().min(1, "Choose an item."), quantity }))
          .max(20, "A part has up to 20 substitutes.")
          .default([]),
      }),
    )
    .min(1, "A parts list has at least one part.")
    .max(500, "A parts list has up to 500 lines."),
});

export type ListDraftBody = z.infer<typeof listDraft>;
/** The same with its amounts parsed. */
export type ListInput = Parsed<typeof listDraft>;

export const productList = z.object({
  id: ref,
  name: z.string(),
  main: z.boolean(),
  revisions: z.array(revisionHead),
});

export type ProductList = z.infer<typeof productList>;

const comparedLine = z.object({
  part: itemBrief,
  before: listLine.nullable(),
  after: listLine.nullable(),
  fields: z.array(z.enum(LINE_FIELDS)),
  costBefore: costFigure.nullable(),
  costAfter: costFigure.nullable(),
});

export const comparison = z
  .object({
    before: partsList,
    after: partsList,
    head: z.array(z.enum(HEAD_FIELDS)),
    instructions: z.boolean().meta({ description: "The instructions differ" }),
    lines: z.array(comparedLine),
  })
  .meta({ id: "Comparison" });

export type ComparisonAnswer = z.infer<typeof comparison>;

export const listRoutes = {
  lists: ask("/api/items/:id/lists", {
    permission: "look",
    summary: "All parts lists of a product, with their revisions",
    ...byId,
    answer: z.object({ lists: z.array(productList) }),
  }),
  revision: ask("/api/revisions/:id", {
    permission: "look",
    summary: "One revision of a parts list",
    ...byId,
    answer: partsList,
  }),
  saveList: replace("/api/items/:id/parts-list", {
    permission: "lists",
    summary: "Write the draft of a parts list; a locked list gets its next revision",
    ...byId,
    body: listDraft,
    answer: partsList,
  }),
  newList: command("/api/lists", {
    permission: "lists",
    summary: "Make another list for a product, as a copy of one of its own or another product's",
    body: z.object({ product: chosen("a product"), name: listName, copyOf: ref }),
    answer: partsList,
  }),
  changeList: replace("/api/lists/:id", {
    permission: "lists",
    summary: "Name a list, or make it the main one",
    ...byId,
    body: z.object({ name: listName, main: z.boolean() }),
    answer: z.object({ lists: z.array(productList) }),
  }),
  lockRevision: command("/api/revisions/:id/lock", {
    permission: "lists",
    summary: "Lock a draft: it never changes again, and takes effect when it says",
    ...byId,
    body: z.object({ ...starting, note }),
    answer: partsList,
  }),
  retireRevision: command("/api/revisions/:id/retire", {
    permission: "lists",
    summary: "Retire a revision: nothing new is built from it",
    ...byId,
    answer: z.object({ lists: z.array(productList) }),
  }),
  removeRevision: command("/api/revisions/:id/remove", {
    permission: "lists",
    summary: "Throw a draft away",
    ...byId,
    answer: z.object({ lists: z.array(productList) }),
  }),
  compareRevisions: ask("/api/revisions/:id/compare", {
    permission: "look",
    summary: "What changed from another revision to this one",
    ...byId,
    query: z.object({ with: id }),
    answer: comparison,
  }),
};
