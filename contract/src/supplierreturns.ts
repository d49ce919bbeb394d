import { documentBrief, itemBrief } from "./brief.ts";
import {
  bin,
  byId,
  chosen,
  costFigure,
  credit,
  day,
  figure,
  lot,
  moment,
  note,
  once,
  pageEnd,
  pageQuery,
  quantity,
  ref,
  serial,
  short,
} from "./fields.ts";
import { ask, command } from "./route.ts";
import { z } from "./zod.ts";

const firm = z.object({ id: ref, code: z.string(), name: z.string() });

export const supplierReturnBody = z.object({
  supplier: chosen("a supplier"),
  day,
  reason: note.min(1, "Enter why it goes back."),
  note: note.default(""),
  credit: credit.default("0").meta({ description: "What the supplier is expected to credit; only a figure" }),
  costTag: short("The cost tag").default(""),
  lines: z
    .array(
      z
        .object({
          item: chosen("an item"),
          lot: lot.default(""),
          serial: serial.default(""),
          quantity,
          store: z.string().trim().max(120).default("").meta({ description: "Empty with `returnLine`" }),
          bin: bin.default(""),
          returnLine: z
            .object({ id: ref, line: ref })
            .nullable()
            .default(null)
            .meta({ description: "The line of a customer's return that it is taken from" }),
        })
        .refine(({ store, returnLine }) => store !== "" || returnLine !== null, {
          path: ["store"],
          error: "Choose where it is taken from.",
        }),
    )
    .min(1, "Nothing goes back.")
    .max(500, "Up to 500 lines.")
    .check(
      once(
        ({ returnLine }) => (returnLine ? `${returnLine.id} ${returnLine.line}` : null),
        "This line of a return is named",
      ),
    ),
});
export type SupplierReturnBody = z.infer<typeof supplierReturnBody>;

export const supplierReturnRow = z
  .object({
    id: ref,
    number: z.string(),
    supplier: firm,
    day,
    reason: z.string(),
    lines: z.int(),
    credit: costFigure,
    person: z.string(),
    moment,
    undone: z.object({ person: z.string(), moment }).nullable(),
  })
  .meta({ id: "SupplierReturnRow" });
export type SupplierReturnRow = z.infer<typeof supplierReturnRow>;

export const supplierReturnSheet = supplierReturnRow
  .extend({
    note: z.string(),
    value: costFigure.meta({ description: "What the goods carried when they left" }),
    replacement: documentBrief.nullable().meta({ description: "The purchase order that replaces them" }),
    sent: z.array(
      z.object({
        line: ref,
        item: itemBrief,
        lot: z.string(),
        serial: z.string(),
        quantity: figure,
        from: z.string(),
        return: documentBrief.nullable().meta({ description: "The customer's return that it came with" }),
        value: costFigure,
      }),
    ),
  })
  .meta({ id: "SupplierReturnSheet" });
export type SupplierReturnSheet = z.infer<typeof supplierReturnSheet>;

export const supplierReturnRoutes = {
  supplierReturns: ask("/api/supplier-returns", {
    permission: "look",
    summary: "Returns to suppliers, the latest first",
    query: z.object(pageQuery),
    answer: z.object({ supplierReturns: z.array(supplierReturnRow), ...pageEnd }),
  }),
  supplierReturn: ask("/api/supplier-returns/:id", {
    permission: "look",
    summary: "One return to a supplier: what went back, at what value, and what is expected for it",
    ...byId,
    answer: supplierReturnSheet,
  }),
  newSupplierReturn: command("/api/supplier-returns", {
    permission: "buy",
    summary: "Send goods back to a supplier: they leave stock at their value",
    body: supplierReturnBody,
    answer: supplierReturnSheet,
  }),
  replaceSupplierReturn: command("/api/supplier-returns/:id/replacement", {
    permission: "buy",
    summary: "Order again what went back, on a purchase order of its own",
    ...byId,
    answer: supplierReturnSheet,
  }),
  undoSupplierReturn: command("/api/supplier-returns/:id/undo", {
    permission: "buy",
    summary: "Undo a return to a supplier: the goods are where they were",
    ...byId,
    answer: supplierReturnSheet,
  }),
};
