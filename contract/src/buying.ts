import type { Parsed } from "./amounts.ts";
import { documentBrief, firmBrief, itemBrief } from "./brief.ts";
import {
  bin,
  byId,
  chosen,
  cost,
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
  per,
  quantity,
  quantityOrZero,
  ref,
  serial,
  short,
  version,
} from "./fields.ts";
import { ask, command, replace } from "./route.ts";
import { z } from "./zod.ts";

export const PURCHASE_STAGES = ["draft", "sent", "part received", "received", "cancelled"] as const;
export type PurchaseStage = (typeof PURCHASE_STAGES)[number];
export const purchaseStage = z.enum(PURCHASE_STAGES);

export const purchaseRow = z
  .object({
    id: ref,
    number: z.string(),
    supplier: firmBrief,
    stage: purchaseStage,
    lines: z.int(),
    /** Lines that nothing more is expected of. */
    linesDone: z.int(),
    total: costFigure,
    expected: day.nullable().meta({ description: "Earliest day of what is still to come" }),
    made: moment,
  })
  .meta({ id: "PurchaseRow" });
export type PurchaseRow = z.infer<typeof purchaseRow>;

const need = z.object({
  build: documentBrief.nullable(),
  order: documentBrief.extend({ customer: z.string() }).nullable(),
  product: z.object({ id: ref, code: z.string(), name: z.string() }).nullable(),
  quantity: figure,
});

export const purchaseLine = z.object({
  id: ref,
  item: itemBrief,
  theirCode: z.string(),
  quantity: figure.meta({ description: "In the item's unit" }),
  pack: z
    .object({ name: z.string(), size: figure, count: figure })
    .nullable()
    .meta({ description: "As it is ordered" }),
  price: costFigure,
  pricePer: z.string().meta({ description: "The unit or pack that the price is for; empty: the stock unit" }),
  total: costFigure,
  agreed: z
    .object({ price: costFigure, pricePer: z.string() })
    .nullable()
    .meta({ description: "What the supplier asks for the item as it was agreed; null: nothing was" }),
  expected: day.nullable(),
  costTag: z.string(),
  note: z.string(),
  received: figure,
  open: figure,
  closed: z.boolean().meta({ description: "What is missing of it is not waited for any more" }),
  store: z.string(),
  bin: z.string(),
  shelfLife: z.int().nullable(),
  for: z.array(need),
});
export type PurchaseLine = z.infer<typeof purchaseLine>;

export const receiptRecord = z.object({
  id: ref,
  number: z.string(),
  moment,
  day,
  person: z.string(),
  note: z.string(),
  value: costFigure,
  lines: z.array(
    z.object({
      line: ref.meta({ description: "Its position in the receipt" }),
      item: itemBrief,
      quantity: figure,
      price: costFigure,
      pricePer: z.string(),
      lot: z.string(),
      serial: z.string(),
      store: z.string(),
      bin: z.string(),
    }),
  ),
  undone: z.object({ person: z.string(), moment }).nullable(),
});
export type ReceiptRecord = z.infer<typeof receiptRecord>;

export const purchaseSheet = purchaseRow
  .extend({
    version,
    note: z.string(),
    contact: z.string(),
    email: z.string(),
    terms: z.string(),
    deliverTo: z
      .object({ order: documentBrief, address: z.string() })
      .nullable()
      .meta({ description: "The customer's order that it is delivered straight to; null: it comes to us" }),
    orderLines: z.array(purchaseLine),
    receipts: z.array(receiptRecord),
    messages: z.array(z.object({ id: ref, moment, sent: moment.nullable() })),
    history: z.array(
      z.object({ what: z.enum(["created", "sent", "received", "cancelled"]), person: z.string(), moment }),
    ),
  })
  .meta({ id: "PurchaseSheet" });
export type PurchaseSheet = z.infer<typeof purchaseSheet>;

export const purchaseLineBody = z.object({
  id: ref.nullable().default(null).meta({ description: "Of a line that is there; null: a new one" }),
  item: chosen("an item"),
  quantity,
  pack: short("The pack")
    .default("")
    .meta({ description: "Name of the item's pack it is ordered in; empty: in its unit" }),
  price: cost.nullable().default(null).meta({ description: "null: as the supplier asks" }),
  pricePer: per,
  expected: day.nullable().default(null).meta({ description: "null: today and the supplier's lead days" }),
  costTag: short("The cost tag").default(""),
  note: note.default(""),
});
export const purchaseBody = z.object({
  note: note.default(""),
  lines: z
    .array(purchaseLineBody)
    .min(1, "A purchase order has at least one line.")
    .max(500, "Up to 500 lines.")
    .check(once((line) => line.id, "This line is named")),
});
/** The same with its amounts parsed. */
export type PurchaseInput = Parsed<typeof purchaseBody>;

/** What is to be bought, whoever supplies it: it goes onto that supplier's open draft, or a new one. */
export const needLine = z.object({
  item: chosen("an item"),
  supplier: ref.nullable().default(null).meta({ description: "null: the preferred one" }),
  quantity,
  price: cost.nullable().default(null).meta({ description: "null: as the supplier asks" }),
  pricePer: per,
  expected: day.nullable().default(null),
  costTag: short("The cost tag").default(""),
  for: z
    .array(
      z.object({
        build: ref.nullable().default(null),
        product: ref.nullable().default(null),
        orderLine: ref.nullable().default(null).meta({ description: "The line of a customer's order" }),
        quantity,
      }),
    )
    .default([]),
});
/** The same with its amounts parsed. */
export type NeedInput = Parsed<typeof needLine>;

export const receiveLine = z.object({
  line: ref,
  quantity: quantityOrZero,
  price: cost.nullable().default(null).meta({ description: "null: as ordered" }),
  pricePer: per,
  store: z.string().default("").meta({ description: "Empty: the item's home store" }),
  bin: bin.default(""),
  lots: z
    .array(z.object({ lot, expiry: day.nullable().default(null), quantity }))
    .default([])
    .meta({ description: "Of an item kept by lot: how much of which" }),
  expiry: day.nullable().default(null).meta({ description: "Of all units by serial number" }),
  madeOn: day.nullable().default(null).meta({ description: "Of all lots or units" }),
  serials: z.array(serial).max(1000).default([]),
  close: z.boolean().default(false).meta({ description: "Nothing more is expected of it" }),
});
export const receiveBody = z.object({
  day,
  note: note.default(""),
  more: z.boolean().default(false).meta({ description: "More came than was ordered, and is kept" }),
  lines: z.array(receiveLine).min(1, "What came?").max(500),
});
export type ReceiveBody = z.infer<typeof receiveBody>;
/** The same with its amounts parsed. */
export type ReceiptInput = Parsed<typeof receiveBody>;

export const reorderRow = itemBrief
  .extend({
    free: figure,
    incoming: figure,
    projected: figure.meta({ description: "Free with all that comes" }),
    level: figure.nullable(),
    firstShort: day.nullable(),
    comesTooLate: z.boolean(),
    /** What to do about it. */
    act: z.enum(["order", "build", "bring forward", "nothing known"]),
    quantity: figure.meta({ description: "Suggested, as the supplier sells it" }),
    onDrafts: z
      .array(z.object({ document: z.string(), quantity: figure }))
      .meta({ description: "What stands on drafts already; the suggestion is less by it" }),
    by: day.nullable().meta({ description: "Last day to order or to start building" }),
    supplier: firmBrief.nullable(),
    offers: z.array(
      z.object({
        supplier: firmBrief,
        web: z.string().meta({ description: "Where it sells the item on the web; empty: nowhere" }),
        preferred: z.boolean(),
        price: costFigure.nullable(),
        pricePer: z.string(),
        quantity: figure,
        cost: costFigure.nullable(),
        arrives: day.nullable(),
      }),
    ),
  })
  .meta({ id: "ReorderRow" });
export type ReorderRow = z.infer<typeof reorderRow>;

export const buyingRoutes = {
  purchases: ask("/api/purchases", {
    permission: "look",
    summary: "Purchase orders: drafts, then what is still to come, then what ended",
    query: z.object({ stage: purchaseStage.optional(), supplier: id.optional(), ...pageQuery }),
    answer: z.object({ purchases: z.array(purchaseRow), ...pageEnd }),
  }),
  purchase: ask("/api/purchases/:id", {
    permission: "look",
    summary: "One purchase order",
    ...byId,
    answer: purchaseSheet,
  }),
  newPurchase: command("/api/purchases", {
    permission: "buy",
    summary: "Make a draft by hand",
    body: purchaseBody.extend({ supplier: chosen("a supplier") }),
    answer: purchaseSheet,
  }),
  changePurchase: replace("/api/purchases/:id", {
    permission: "buy",
    summary: "Change a draft",
    ...byId,
    body: purchaseBody,
    answer: purchaseSheet,
  }),
  changeExpected: command("/api/purchases/:id/expected", {
    permission: "buy",
    summary: "Say when lines that were sent are expected now",
    ...byId,
    body: z.object({
      lines: z
        .array(z.object({ line: ref, expected: day.nullable() }))
        .min(1, "Of which lines?")
        .check(once((line) => line.line, "This line is named")),
    }),
    answer: purchaseSheet,
  }),
  buyNeeds: command("/api/purchases/for-needs", {
    permission: "buy",
    summary: "Put what is needed onto drafts, one a supplier, each need linked",
    body: z.object({ lines: z.array(needLine).min(1, "Nothing to buy.").max(2000) }),
    answer: z.object({ purchases: z.array(purchaseRow) }),
  }),
  sendPurchase: command("/api/purchases/:id/send", {
    permission: "buy",
    summary: "Put the order into the outbox as PDF and CSV; it is on its way then",
    ...byId,
    answer: purchaseSheet,
  }),
  cancelPurchase: command("/api/purchases/:id/cancel", {
    permission: "buy",
    summary: "Cancel what has not come",
    ...byId,
    answer: purchaseSheet,
  }),
  receivePurchase: command("/api/purchases/:id/receive", {
    permission: "receive",
    summary: "Take in what came: all or some, at the price it has",
    ...byId,
    body: receiveBody,
    answer: purchaseSheet,
  }),
  undoReceipt: command("/api/receipts/:id/undo", {
    permission: "receive",
    summary: "Take a receipt back, mirrored; refused where stock has moved on",
    ...byId,
    answer: purchaseSheet,
  }),
  agreePrice: command("/api/purchases/:id/agree-price", {
    permission: "buy",
    summary: "Take a price over as what the supplier asks for an item of the order from now on",
    ...byId,
    body: z.object({ item: ref, price: cost, pricePer: per }),
    answer: purchaseSheet,
  }),
  correctPrice: command("/api/receipts/:id/price", {
    permission: "receive",
    summary:
      "Put the price of a received line right: what is on hand takes its share, the rest is a price difference",
    ...byId,
    body: z.object({
      line: ref.meta({ description: "Position in the receipt" }),
      price: cost,
      pricePer: per,
      reason: note.min(1, "Enter a reason."),
    }),
    answer: purchaseSheet,
  }),
  purchaseFile: ask("/api/purchases/:id/paper", {
    permission: "look",
    summary: "The order as it would be sent",
    ...byId,
    query: z.object({ format: z.enum(["pdf", "csv"]) }),
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
  reorder: ask("/api/reorder", {
    permission: "look",
    summary: "All items over all open demand: what to order or build, and by when",
    query: z.object({ ...pageQuery, supplier: id.optional() }),
    answer: z.object({
      rows: z.array(reorderRow),
      looked: z.int().meta({ description: "How many items need something done, found by the search or not" }),
      dueToday: z
        .int()
        .meta({ description: "Of `total`, how many have to be ordered or built today at the latest" }),
      ...pageEnd,
    }),
  }),
};
