import { TRACE_ENDS } from "@yosegi/core";
import { documentBrief, firmBrief, itemBrief } from "./brief.ts";
import { day, figure, id, moment, ref } from "./fields.ts";
import { ask, command } from "./route.ts";
import { z } from "./zod.ts";

/** A lot, or a unit by its serial number; what is not tracked has neither, and ends a trace. */
const tracePiece = z.object({
  key: z.int().meta({ description: "Its place among the pieces" }),
  item: itemBrief,
  lot: z.string(),
  serial: z.string(),
});

const traceStep = z.object({
  from: z.int().meta({ description: "The piece that it is a step of" }),
  to: z.int().nullable().meta({ description: "The piece it leads to; null where it ends" }),
  end: z.enum(TRACE_ENDS).nullable().meta({ description: "Why it ends there; null where it goes on" }),
  document: z.string(),
  quantity: figure.meta({ description: "Of the piece that it is a step of" }),
  day,
  moment,
  person: z.string(),
  place: z.string().meta({ description: "The bin that it left, or arrived in" }),
  build: documentBrief.nullable(),
  order: documentBrief.nullable(),
  shipment: documentBrief.nullable(),
  purchase: documentBrief.nullable(),
  return: documentBrief.nullable(),
  takeApart: documentBrief.nullable(),
  rework: documentBrief.nullable(),
  firm: firmBrief
    .nullable()
    .meta({ description: "The customer it went to or came back from, or the supplier it came from" }),
});
export type TraceStep = z.infer<typeof traceStep>;

export const trace = z
  .object({ pieces: z.array(tracePiece), steps: z.array(traceStep) })
  .meta({ id: "Trace" });
export type Trace = z.infer<typeof trace>;

const ofPiece = z.object({
  item: id,
  lot: z.string().max(40).default(""),
  serial: z.string().max(60).default(""),
});

export const traceRoutes = {
  trace: ask("/api/trace", {
    permission: "look",
    summary: "Where a lot or serial number went, or what went into it, through any number of builds",
    query: ofPiece.extend({ direction: z.enum(["forward", "backward"]).default("forward") }),
    answer: trace,
  }),
  traceExport: ask("/api/trace/receivers", {
    permission: "look",
    summary: "All customers that received anything with a lot or serial number in it, as a spreadsheet",
    query: ofPiece.extend({ format: z.enum(["csv", "xlsx"]).default("xlsx") }),
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
  traceMessages: command("/api/trace/messages", {
    permission: "sell",
    summary: "Put a message to each of these customers into the outbox",
    body: z.object({
      item: ref,
      lot: z.string().max(40).default(""),
      serial: z.string().max(60).default(""),
    }),
    answer: z.object({ messages: z.int() }),
  }),
};
