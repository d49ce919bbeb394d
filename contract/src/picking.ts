import { PICKED_FOR } from "@yosegi/core";
import { itemBrief } from "./brief.ts";
import {
  bin,
  byId,
  day,
  figure,
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
} from "./fields.ts";
import { ask, command } from "./route.ts";
import { z } from "./zod.ts";

const pickedFor = z.enum(PICKED_FOR);

/** A document that goods are fetched for. */
const pickRef = z.object({ kind: pickedFor, id: ref });

const pickDocument = z.object({
  kind: pickedFor,
  id: ref,
  number: z.string(),
  name: z.string().meta({ description: "The customer, or the product that is built" }),
  reference: z.string().meta({ description: "The order's reference" }),
  due: day.nullable(),
});

const roundBrief = z.object({
  id: ref,
  number: z.string(),
  picker: z.string(),
  pickerId: ref,
});

export const pickRow = pickDocument
  .extend({
    lines: z.int().meta({ description: "Lines of which something is still to be fetched and in stock" }),
    missing: z.int().meta({ description: "Lines of which something is not in stock for it" }),
    stores: z.array(z.string()).meta({ description: "The stores that something of it is fetched from" }),
    overdue: z.boolean(),
  })
  .meta({ id: "PickRow" });
export type PickRow = z.infer<typeof pickRow>;

const share = z.object({
  kind: pickedFor,
  id: ref,
  number: z.string(),
  line: z.int(),
  quantity: figure,
  set: z.string().meta({ description: "The set that it is a content of, with how many; empty: none" }),
});

export const pickStop = z
  .object({
    location: ref,
    store: z.string(),
    bin: z.string(),
    item: itemBrief,
    barcode: z.string(),
    lotFixed: z.boolean().meta({ description: "Another lot than this one needs a reason" }),
    lot: z.string(),
    serial: z.string(),
    expiry: day.nullable(),
    quantity: figure.meta({ description: "To be fetched here, for all" }),
    inBin: figure.meta({ description: "What the books say is in the bin of it, of this lot" }),
    shares: z.array(share).meta({ description: "For whom, in their turn" }),
    others: z
      .array(z.object({ lot: z.string(), serial: z.string(), quantity: figure, expiry: day.nullable() }))
      .meta({ description: "Other lots or serials of the item in this bin" }),
  })
  .meta({ id: "PickStop" });
export type PickStop = z.infer<typeof pickStop>;

const fetched = z.object({
  posting: ref,
  moment,
  person: z.string(),
  from: z.string(),
  item: itemBrief,
  lot: z.string(),
  serial: z.string(),
  quantity: figure,
  numbers: z.array(z.string()).meta({ description: "What it was fetched for" }),
  reason: z.string(),
});

const missing = z.object({
  number: z.string(),
  item: itemBrief,
  quantity: figure,
  leftShort: z
    .boolean()
    .meta({ description: "A person left it short in this round; else it is not in stock" }),
});

/** A line of a build in a round, with its item. */
const buildLineOf = z.object({ build: ref, number: z.string(), line: ref, item: itemBrief });

export const pickRound = roundBrief
  .extend({
    startedAt: moment,
    endedAt: moment.nullable(),
    documents: z.array(
      pickDocument.extend({
        fetched: z.int().meta({ description: "Lines of which all was fetched" }),
        lines: z.int(),
        next: z.enum(["pick", "finish", "ship", "wait", "done", "cancelled"]).meta({
          description:
            "What comes next for it: fetch more, finish it, ship it, or wait for goods; nothing where it was finished, shipped or cancelled meanwhile",
        }),
      }),
    ),
    stops: z.array(pickStop).meta({ description: "Where to go, in walk order" }),
    fetched: z.array(fetched).meta({ description: "What was fetched in it, the latest first" }),
    missing: z.array(missing),
    substitutable: z
      .array(
        buildLineOf.extend({
          open: figure,
          substitutes: z.array(z.object({ item: itemBrief, factor: figure, free: figure })),
        }),
      )
      .meta({ description: "Lines of its builds that the parts list allows substitutes for" }),
    substituted: z
      .array(
        buildLineOf.extend({
          insteadOf: itemBrief,
          replaces: figure.meta({ description: "Of the part, in its stock unit" }),
        }),
      )
      .meta({ description: "Substitutes taken while picking of which nothing is handed out yet" }),
  })
  .meta({ id: "PickRound" });
export type PickRound = z.infer<typeof pickRound>;

export const fetchBody = z.object({
  location: ref,
  bin,
  item: ref,
  lot: lot.default(""),
  serial: serial.default(""),
  quantity: quantityOrZero.meta({ description: "0 with `there` only counts the bin" }),
  there: quantityOrZero
    .nullable()
    .default(null)
    .meta({ description: "What is left in the bin of it, where that differs from the books: it is counted" }),
  more: z.boolean().default(false).meta({ description: "Fetch more than is needed" }),
  reason: note.default("").meta({ description: "Why it is another lot than the suggested one" }),
  day,
});
export type FetchBody = z.infer<typeof fetchBody>;

export const packedOrder = z
  .object({
    id: ref,
    number: z.string(),
    packed: z.array(
      z.object({
        item: itemBrief,
        barcode: z.string(),
        lot: z.string(),
        serial: z.string(),
        expiry: day.nullable(),
        quantity: figure,
      }),
    ),
    checked: z
      .object({ person: z.string(), moment })
      .nullable()
      .meta({ description: "null: not checked, or something was packed or taken out since" }),
  })
  .meta({ id: "PackedOrder" });
export type PackedOrder = z.infer<typeof packedOrder>;

const roundAnswer = { answer: pickRound };

export const pickingRoutes = {
  picks: ask("/api/picks", {
    permission: "look",
    summary:
      "Builds and orders that something is to be fetched for and nobody fetches yet, by when they are due",
    query: z.object({
      ...pageQuery,
      store: z.string().max(120).default("").meta({ description: "Only what is fetched from this store" }),
    }),
    answer: z.object({
      picks: z.array(pickRow),
      rounds: z
        .array(roundBrief.extend({ documents: z.array(z.string()) }))
        .meta({ description: "Rounds that are walked" }),
      ...pageEnd,
    }),
  }),
  startRound: command("/api/picks", {
    permission: "pick",
    summary: "Start a round over builds and orders; what it suggests is held for it",
    body: z.object({
      documents: z
        .array(pickRef)
        .min(1, "Choose what to pick for.")
        .max(50, "Up to 50 at once.")
        .check(once((one) => `${one.kind} ${one.id}`, "This is named")),
    }),
    ...roundAnswer,
  }),
  pickRound: ask("/api/picks/:id", {
    permission: "look",
    summary: "A round: where to go, what was fetched, what is missing",
    ...byId,
    ...roundAnswer,
  }),
  pickPaper: ask("/api/picks/:id/paper", {
    permission: "look",
    summary: "A round as a pick list on A4, with codes to scan, as PDF",
    ...byId,
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
  fetchPick: command("/api/picks/:id/fetch", {
    permission: "pick",
    summary: "Say what was fetched from a bin; it is dealt out to those that want it, in their turn",
    ...byId,
    body: fetchBody,
    ...roundAnswer,
  }),
  leaveShort: command("/api/picks/:id/leave-short", {
    permission: "pick",
    summary: "Leave the rest of a stop short in this round",
    ...byId,
    body: z.object({ location: ref, bin, item: ref, lot: lot.default(""), serial: serial.default("") }),
    ...roundAnswer,
  }),
  takeSubstitute: command("/api/picks/:id/substitute", {
    permission: "pick",
    summary:
      "Take a substitute that the parts list allows for what a build of the round still needs of a part",
    ...byId,
    body: z.object({
      build: ref,
      line: ref,
      item: ref,
      quantity: quantity.meta({ description: "Of the part it stands in for, in its stock unit" }),
    }),
    ...roundAnswer,
  }),
  undoSubstitute: command("/api/picks/:id/substitute/undo", {
    permission: "pick",
    summary: "Take the part again instead of a substitute of which nothing is handed out yet",
    ...byId,
    body: z.object({ build: ref, line: ref }),
    ...roundAnswer,
  }),
  undoFetch: command("/api/picks/:id/undo", {
    permission: "pick",
    summary: "Undo one fetch: it is back in its bin and still to be fetched",
    ...byId,
    body: z.object({ posting: ref }),
    ...roundAnswer,
  }),
  handOverRound: command("/api/picks/:id/hand-over", {
    permission: "pick",
    summary: "Hand a round over to another person",
    ...byId,
    body: z.object({ person: ref }),
    ...roundAnswer,
  }),
  endRound: command("/api/picks/:id/end", {
    permission: "pick",
    summary: "End a round: what it holds is free for others, and what is left can be picked anew",
    ...byId,
    ...roundAnswer,
  }),
  packedOrder: ask("/api/orders/:id/packed", {
    permission: "look",
    summary: "What is packed for an order, piece by piece, and who checked it",
    ...byId,
    answer: packedOrder,
  }),
  checkPacked: command("/api/orders/:id/packed/check", {
    permission: "pick",
    summary: "Say that what is packed was checked, with what was scanned; refused where it is not just that",
    ...byId,
    body: z.object({
      pieces: z
        .array(z.object({ item: ref, lot: lot.default(""), serial: serial.default(""), quantity }))
        .max(5000)
        .check(once(({ item, lot: l, serial: s }) => JSON.stringify([item, l, s]), "This piece is named")),
    }),
    answer: packedOrder,
  }),
  unpackOrder: command("/api/orders/:id/unpack", {
    permission: "pick",
    summary: "Put all that is packed for an order back into its bins",
    ...byId,
    answer: z.object({}),
  }),
};
