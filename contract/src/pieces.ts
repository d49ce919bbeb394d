import { documentBrief, firmBrief, itemBrief } from "./brief.ts";
import { customValue } from "./customfields.ts";
import { day, figure, id, lot, quantity, ref, serial, short } from "./fields.ts";
import { ask, command, replace } from "./route.ts";
import { z } from "./zod.ts";

/** A part that is inside a unit. */
export const content = z.object({
  item: itemBrief,
  quantity: figure,
  lot: z.string(),
  serial: z.string(),
  rework: documentBrief
    .nullable()
    .meta({ description: "The rework that put it in; null: it was built in, or written down" }),
});

export const pieceCard = z
  .object({
    item: itemBrief,
    lot: z.string(),
    serial: z.string(),
    madeOn: day.nullable(),
    expiry: day.nullable(),
    makerNumber: z.string(),
    gone: z.string().meta({ description: "Where a unit is that left stock, in words; empty: in stock" }),
    warranty: z
      .object({
        from: day.meta({ description: "The day it was shipped" }),
        until: day.nullable().meta({ description: "null: the item has no warranty" }),
        customer: firmBrief,
        shipment: documentBrief,
      })
      .nullable()
      .meta({ description: "null: it was not shipped, or came back since" }),
    build: documentBrief.nullable().meta({ description: "The build that made it" }),
    reworks: z
      .array(documentBrief)
      .meta({ description: "Reworks that it went through, the first one first" }),
    was: itemBrief
      .nullable()
      .meta({ description: "What it was before a rework made it this item; null: the same" }),
    contents: z.array(content).meta({ description: "What is inside a unit" }),
    written: z.boolean().meta({ description: "Its contents were written down, for it was never built here" }),
    custom: z.array(customValue),
  })
  .meta({ id: "PieceCard" });
export type PieceCard = z.infer<typeof pieceCard>;

const ofPiece = { item: ref, lot: lot.default(""), serial: serial.default("") };

export const pieceRoutes = {
  piece: ask("/api/pieces", {
    permission: "look",
    summary: "The card of a lot or of a unit by its serial number",
    query: z.object({
      item: id,
      lot: z.string().max(40).default(""),
      serial: z.string().max(60).default(""),
    }),
    answer: pieceCard,
  }),
  changePiece: replace("/api/pieces", {
    permission: "stock",
    summary: "Set when a lot or unit was made, by when it is to be used, and its maker's number",
    body: z.object({
      ...ofPiece,
      madeOn: day.nullable(),
      expiry: day.nullable(),
      makerNumber: short("The maker's number"),
    }),
    answer: pieceCard,
  }),
  writeContents: command("/api/pieces/contents", {
    permission: "stock",
    summary: "Write down what is inside a unit that was never built here",
    body: z.object({
      item: ref,
      serial: serial.min(1, "Enter the serial number."),
      contents: z
        .array(
          z.object({
            item: z.int("Choose an item.").positive("Choose an item."),
            quantity,
            lot: lot.default(""),
            serial: serial.default(""),
          }),
        )
        .max(200, "Up to 200 parts."),
    }),
    answer: pieceCard,
  }),
};
