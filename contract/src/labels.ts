import { itemBrief } from "./brief.ts";
import { bin, byId, id, lot, moment, pageEnd, pageQuery, ref, serial } from "./fields.ts";
import { ask, command } from "./route.ts";
import { z } from "./zod.ts";

export const LABEL_SHAPES = ["code 128", "qr"] as const;
/** Copies that the tray gives to be printed at once: ten A4 sheets. */
export const LABELS_AT_ONCE = 240;

export const labelShape = z.enum(LABEL_SHAPES, { error: "A code is “code 128” or “qr”." });

export const label = z
  .object({
    id: ref,
    item: itemBrief.nullable().meta({ description: "null: it is of a bin" }),
    document: z.string(),
    code: z.string().meta({ description: "What a scan of it says" }),
    shape: labelShape,
    lines: z.array(z.string()),
    copies: z.int(),
    made: moment,
    person: z.string(),
    printed: z.object({ person: z.string(), moment }).nullable(),
    svg: z.string().meta({ description: "The code as a picture" }),
  })
  .meta({ id: "Label" });
export type Label = z.infer<typeof label>;

const copies = z
  .int("The number of copies is a whole number.")
  .min(1, "At least one copy.")
  .max(1000, "Up to 1000 copies.");

const labelIds = z.object({ labels: z.array(ref).min(1, "Choose at least one label.").max(10_000) });

export const labelRoutes = {
  labels: ask("/api/labels", {
    permission: "look",
    summary: `The label tray: what is next to be printed, up to ${LABELS_AT_ONCE} copies`,
    answer: z.object({
      waiting: z
        .object({ labels: z.int(), copies: z.int() })
        .meta({ description: "All that wait to be printed, listed or not" }),
      labels: z.array(label),
    }),
  }),
  printedLabels: ask("/api/labels/printed", {
    permission: "look",
    summary: "Labels that were printed, latest first",
    query: z.object(pageQuery),
    answer: z.object({ labels: z.array(label), ...pageEnd }),
  }),
  makeLabels: command("/api/builds/:id/labels", {
    permission: "build",
    summary:
      "Put labels for the finished units of a build into the tray: one a serial number, or one for all",
    params: z.object({ id }),
    body: z.object({
      shape: labelShape,
      copies: copies.nullable().meta({ description: "null: one for each unit" }),
    }),
    answer: z.object({ labels: z.int() }),
  }),
  makeItemLabels: command("/api/items/:id/labels", {
    permission: "build",
    summary: "Put labels of an item, or of one of its lots or serial numbers, into the tray",
    ...byId,
    body: z.object({ shape: labelShape, copies, lot: lot.default(""), serial: serial.default("") }),
    answer: z.object({ labels: z.int() }),
  }),
  makeBinLabels: command("/api/stores/:id/labels", {
    permission: "build",
    summary: "Put labels of the bins of a store into the tray, as one walks",
    ...byId,
    body: z.object({
      shape: labelShape,
      bins: z.array(bin).max(5000).default([]).meta({ description: "Only these; empty: all of the store's" }),
    }),
    answer: z.object({ labels: z.int() }),
  }),
  markPrinted: command("/api/labels/printed", {
    permission: "build",
    summary: "Say that labels were printed",
    body: labelIds,
    answer: z.object({}),
  }),
  removeLabels: command("/api/labels/remove", {
    permission: "build",
    summary: "Take labels out of the tray",
    body: labelIds,
    answer: z.object({}),
  }),
  labelPaper: ask("/api/label-sheets", {
    permission: "look",
    summary: "The labels that are next to be printed, as PDF: 24 to an A4 page",
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
};
