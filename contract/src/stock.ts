import { POSTING_KINDS } from "@yosegi/core";
import { z } from "zod";
import { itemBrief } from "./brief.ts";
import {
  bin,
  cost,
  costFigure,
  day,
  figure,
  id,
  lot,
  moment,
  note,
  per,
  quantity,
  ref,
  serial,
} from "./fields.ts";
import { ask, command } from "./route.ts";

export const movementRow = z
  .object({
    id: ref,
    moment,
    day,
    item: itemBrief,
    quantity: figure,
    from: z.string().meta({ description: "Place and bin; empty: from outside" }),
    to: z.string().meta({ description: "Place and bin; empty: used up or gone" }),
    lot: z.string(),
    serial: z.string(),
    value: costFigure,
    kind: z.enum(POSTING_KINDS),
    counted: z
      .boolean()
      .meta({ description: "It puts the books right, within a posting for something else" }),
    document: z.string(),
    build: ref.nullable(),
    person: z.string(),
    reason: z.string(),
  })
  .meta({ id: "MovementRow" });
export type MovementRow = z.infer<typeof movementRow>;

export const newReceipt = z.object({
  item: ref,
  quantity,
  unitCost: cost.nullable().meta({ description: "null takes the standard cost" }),
  costPer: per,
  store: z.string().min(1, "Choose a store."),
  bin,
  lot,
  expiry: day.nullable(),
  serial,
  day,
  reason: note,
});

export const stockRoutes = {
  stores: ask("/api/stores", {
    permission: "look",
    summary: "Stores and their bins",
    answer: z.object({ stores: z.array(z.object({ name: z.string(), bins: z.array(z.string()) })) }),
  }),
  movements: ask("/api/stock/movements", {
    permission: "look",
    summary: "The stock ledger, latest first",
    query: z.object({
      item: id.optional(),
      document: z.string().max(40).optional(),
      search: z.string().max(200).default("").meta({
        description: "Words of item, lot, serial number, document or reason that each of them must have",
      }),
      before: id.optional().meta({ description: "Only movements with a smaller id, for the next page" }),
      limit: z.coerce.number().int().min(1).max(1000).default(200),
    }),
    answer: z.object({ movements: z.array(movementRow), total: z.int() }),
  }),
  receive: command("/api/stock/receipts", {
    permission: "stock",
    summary: "Take stock in by hand",
    body: newReceipt,
    answer: z.object({ document: z.string() }),
  }),
};
