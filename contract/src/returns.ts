import { documentBrief, firmBrief, itemBrief } from "./brief.ts";
import {
  bin,
  byId,
  costFigure,
  day,
  figure,
  id,
  lot,
  moment,
  note,
  once,
  pageEnd,
  pageQuery,
  price,
  priceFigure,
  quantity,
  ref,
  serial,
  short,
  taxFigures,
} from "./fields.ts";
import { outboxMessage } from "./outbox.ts";
import { ask, askWith, command } from "./route.ts";
import { z } from "./zod.ts";

const piece = { item: ref, lot: lot.default(""), serial: serial.default("") };

export const returnBody = z.object({
  shipment: ref.nullable().default(null).meta({ description: "What it came with; null: not known" }),
  customer: ref.nullable().default(null).meta({ description: "Whose it was, without a shipment" }),
  day,
  reason: note.min(1, "Enter why it came back."),
  note: note.default(""),
  costTag: short("The cost tag").default(""),
  fee: price.default("0").meta({ description: "The restocking fee agreed, taken off the credit" }),
  lines: z
    .array(
      z.object({
        orderLine: ref
          .nullable()
          .default(null)
          .meta({ description: "The line of the order that it was shipped for; null without a shipment" }),
        ...piece,
        quantity,
        credit: price.nullable().default(null).meta({
          description: "Without a shipment: what is credited; else null, it follows from what was paid",
        }),
      }),
    )
    .min(1, "Enter what came back.")
    .max(500, "Up to 500 lines.")
    .check(
      once(
        ({ orderLine, item, lot: l, serial: s }) => JSON.stringify([orderLine, item, l, s]),
        "This piece is named",
      ),
    ),
});
export type ReturnBody = z.infer<typeof returnBody>;

const returnable = z.object({
  orderLine: ref,
  sold: itemBrief.meta({ description: "What the line sold: the item itself, or the set it was in" }),
  item: itemBrief,
  lot: z.string(),
  serial: z.string(),
  shipped: figure,
  returned: figure.meta({ description: "Of that, what came back already" }),
  open: figure.meta({ description: "What is still with the customer" }),
});
export type Returnable = z.infer<typeof returnable>;

const returnMoney = {
  credit: priceFigure.meta({ description: "What was paid for what came back, or what was typed" }),
  fee: priceFigure,
  charges: priceFigure.meta({
    description: "For damaged or missing parts that its take-aparts charge",
  }),
  due: priceFigure.meta({
    description: "The credit less the fee and the charges; zero where the replacement is free",
  }),
  taxes: taxFigures,
  gross: priceFigure.meta({ description: "What is due, with tax" }),
};

export const RETURN_OUTCOMES = ["stock", "scrap", "take apart", "rework", "supplier"] as const;
export const returnOutcome = z.enum(RETURN_OUTCOMES);
export type ReturnOutcome = (typeof RETURN_OUTCOMES)[number];

const returnLine = z.object({
  line: ref,
  orderLine: ref.nullable(),
  sold: itemBrief.nullable().meta({ description: "The set it was in; null for none" }),
  item: itemBrief,
  lot: z.string(),
  serial: z.string(),
  quantity: figure.meta({ description: "What was received" }),
  inspected: figure,
  open: figure.meta({ description: "Still to be inspected" }),
  value: costFigure.meta({ description: "What it carried when it came in" }),
  credit: priceFigure,
  warranty: z
    .object({ until: day, runs: z.boolean() })
    .nullable()
    .meta({ description: "Of a unit: until when its warranty runs, and whether it did when it came back" }),
  home: z.object({ store: z.string(), bin: z.string() }),
});
export type ReturnLine = z.infer<typeof returnLine>;

const inspection = z.object({
  id: ref,
  line: ref,
  item: itemBrief,
  lot: z.string(),
  serial: z.string(),
  outcome: returnOutcome,
  quantity: figure,
  place: z.string().meta({ description: "Where it was put away; empty where it was scrapped" }),
  reason: z.string(),
  person: z.string(),
  moment,
});

export const returnRow = z
  .object({
    id: ref,
    number: z.string(),
    customer: firmBrief,
    shipment: documentBrief.nullable(),
    order: documentBrief.nullable(),
    day,
    reason: z.string(),
    person: z.string(),
    moment,
    lines: z.int(),
    open: z.int().meta({ description: "Lines of which something is still to be inspected" }),
    undone: z.object({ person: z.string(), moment }).nullable(),
  })
  .meta({ id: "ReturnRow" });
export type ReturnRow = z.infer<typeof returnRow>;

export const returnSheet = returnRow
  .extend({
    note: z.string(),
    ...returnMoney,
    value: costFigure.meta({ description: "What all that was received carried" }),
    returned: z.array(returnLine),
    missing: z
      .array(z.object({ sold: itemBrief, item: itemBrief, quantity: figure }))
      .meta({ description: "Contents of sets that did not come back with the rest" }),
    inspections: z.array(inspection).meta({ description: "What was decided and stands, the latest first" }),
    replacement: documentBrief.extend({ free: z.boolean() }).nullable(),
  })
  .meta({ id: "ReturnSheet" });
export type ReturnSheet = z.infer<typeof returnSheet>;

export const returnPreview = z
  .object({
    ...returnMoney,
    value: costFigure,
    lines: z.array(z.object({ value: costFigure, credit: priceFigure })),
  })
  .meta({ id: "ReturnPreview" });

const answer = { answer: returnSheet };

export const returnRoutes = {
  returns: ask("/api/returns", {
    permission: "look",
    summary: "What customers sent back, the latest first",
    query: z.object({
      ...pageQuery,
      open: z.enum(["", "1"]).default("").meta({ description: "Only what is still to be inspected" }),
    }),
    answer: z.object({ returns: z.array(returnRow), ...pageEnd }),
  }),
  return: ask("/api/returns/:id", { permission: "look", summary: "One return", ...byId, ...answer }),
  returnable: ask("/api/shipments/:id/returnable", {
    permission: "look",
    summary: "What a shipment took out of stock, piece by piece, and what of it came back already",
    ...byId,
    answer: z.object({ customer: firmBrief, number: z.string(), pieces: z.array(returnable) }),
  }),
  previewReturn: askWith("/api/returns/preview", {
    permission: "look",
    summary: "What a return would be credited and carry; records nothing",
    body: returnBody,
    answer: returnPreview,
  }),
  newReturn: command("/api/returns", {
    permission: "returns",
    summary: "Receive what a customer sent back: it is held in returns until it is inspected",
    body: returnBody,
    ...answer,
  }),
  inspectReturn: command("/api/returns/:id/inspect", {
    permission: "returns",
    summary: "Decide on pieces of a return: back to stock, or scrapped",
    ...byId,
    body: z.object({
      day,
      lines: z
        .array(
          z.object({
            line: ref,
            outcome: returnOutcome.exclude(["take apart", "rework", "supplier"]),
            quantity,
            store: z.string().trim().max(120).default("").meta({ description: "Back to stock: where" }),
            bin: bin.default(""),
            reason: note.default("").meta({ description: "Why it is scrapped" }),
          }),
        )
        .min(1, "Choose what was inspected.")
        .max(500, "Up to 500 lines."),
    }),
    ...answer,
  }),
  undoInspection: command("/api/returns/:id/inspections/:inspection/undo", {
    permission: "returns",
    summary: "Undo what was decided on a piece: it is to be inspected again",
    params: z.object({ id, inspection: id }),
    ...answer,
  }),
  undoReturn: command("/api/returns/:id/undo", {
    permission: "returns",
    summary: "Undo a return of which nothing is inspected: it is with the customer again",
    ...byId,
    ...answer,
  }),
  sendReturn: command("/api/returns/:id/send", {
    permission: "returns",
    summary: "Put the credit of a return into the outbox",
    ...byId,
    answer: outboxMessage,
  }),
  replaceReturn: command("/api/returns/:id/replace", {
    permission: "returns",
    summary: "Order the same again for the customer: free and without credit, or at the normal price with it",
    ...byId,
    body: z.object({ free: z.boolean() }),
    ...answer,
  }),
  returnPaper: ask("/api/returns/:id/paper", {
    permission: "look",
    summary: "The credit of a return as PDF",
    ...byId,
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
};
