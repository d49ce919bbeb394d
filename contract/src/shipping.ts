import type { Parsed } from "./amounts.ts";
import { documentBrief, firmBrief, itemBrief } from "./brief.ts";
import { receiveBody } from "./buying.ts";
import {
  byId,
  costFigure,
  day,
  figure,
  id,
  moment,
  note,
  once,
  pageEnd,
  pageQuery,
  priceFigure,
  quantityOrZero,
  ref,
  version,
  weight,
  wholeNumber,
} from "./fields.ts";
import { finishBody } from "./finishes.ts";
import { outboxMessage } from "./outbox.ts";
import { ask, askWith, command } from "./route.ts";
import { z } from "./zod.ts";

const byOrder = { params: z.object({ id }) };

const shippedLine = z.object({
  line: ref,
  quantity: quantityOrZero
    .nullable()
    .meta({ description: "Whole sets or units; null: all that is open of the line" }),
  pieces: z
    .array(z.object({ item: ref, quantity: quantityOrZero }))
    .max(200)
    .check(once((piece) => piece.item, "This content is named"))
    .default([])
    .meta({ description: "Single pieces of a set besides" }),
  only: z
    .array(z.object({ item: ref, codes: z.array(z.string().max(60)).max(10_000) }))
    .max(200)
    .check(once((chosen) => chosen.item, "This content is named"))
    .default([])
    .meta({ description: "Lots or serials that leave, in this order; none: the suggested ones" }),
});

export const shipBody = z.object({
  day,
  note: note.default(""),
  parcels: wholeNumber("The number of parcels", 9999)
    .min(1, "There is at least one parcel.")
    .nullable()
    .default(null),
  weight: weight.nullable().default(null).meta({ description: "In kg" }),
  lines: z
    .array(shippedLine)
    .max(500, "Up to 500 lines.")
    .check(once((line) => line.line, "This line is named"))
    .meta({
      description:
        "Lines left out stay; work and what else takes nothing from stock leaves with the last goods where it is left out",
    }),
  finishes: z
    .array(finishBody.extend({ build: ref }))
    .max(20, "Up to 20 builds.")
    .check(once((finish) => finish.build, "This build is named"))
    .default([])
    .meta({
      description:
        "Builds for the order that are finished in the same step, before it leaves; a draft is queued first",
    }),
  goOn: z.boolean().default(false).meta({
    description: "Ship though the customer is on hold or over the credit limit; who did is recorded",
  }),
  takeFromOthers: z
    .boolean()
    .default(false)
    .meta({ description: "Ship what is in stock for other orders or builds in their turn" }),
});
export type ShipBody = z.infer<typeof shipBody>;
/** The same with its amounts parsed. */
export type ShipInput = Parsed<typeof shipBody>;

const money = {
  revenue: priceFigure,
  cost: costFigure.meta({ description: "The value that left stock, and what else it cost" }),
  margin: costFigure,
};
const marginPercent = costFigure.nullable().meta({ description: "Of the revenue; null where that is zero" });

const taken = z.object({
  store: z.string(),
  bin: z.string(),
  lot: z.string(),
  serial: z.string(),
  quantity: figure,
});

const component = z.object({
  item: itemBrief,
  quantity: figure,
  ...money,
  taken: z
    .array(taken)
    .meta({ description: "The bins, lots and serials that it left from; empty where it takes no stock" }),
});

const shipmentLine = z.object({
  line: ref,
  item: itemBrief,
  units: figure.meta({ description: "Whole sets or units that are complete with it" }),
  contentsShown: z
    .boolean()
    .nullable()
    .meta({ description: "Of a set: whether the customer sees what is in it; null for what is no set" }),
  ...money,
  marginPercent,
  components: z.array(component).meta({ description: "What left: the item itself, or contents of its set" }),
});
export type ShipmentLine = z.infer<typeof shipmentLine>;

export const shipmentRow = z
  .object({
    id: ref,
    number: z.string(),
    order: documentBrief.extend({ reference: z.string() }),
    customer: firmBrief,
    day,
    person: z.string(),
    moment,
    lines: z.int(),
    parcels: z.int().nullable(),
    weight: figure.nullable().meta({ description: "In kg" }),
    undone: z.object({ person: z.string(), moment }).nullable(),
  })
  .meta({ id: "ShipmentRow" });
export type ShipmentRow = z.infer<typeof shipmentRow>;

export const shipmentSheet = shipmentRow
  .extend({
    note: z.string(),
    address: z.string(),
    finished: z
      .array(documentBrief)
      .meta({ description: "Builds that were finished with it, as far as that was not undone" }),
    wentOn: z.string().meta({ description: "What the customer was shipped to in spite of; empty: nothing" }),
    shipped: z.array(shipmentLine),
    ...money,
    marginPercent,
  })
  .meta({ id: "ShipmentSheet" });
export type ShipmentSheet = z.infer<typeof shipmentSheet>;

const previewLine = z.object({
  line: ref,
  quantity: figure.meta({ description: "Whole sets or units that leave with it" }),
  open: figure.meta({ description: "Whole sets or units that stay open after it" }),
  revenue: priceFigure,
  cost: costFigure.nullable().meta({ description: "null where there is not enough stock" }),
  margin: costFigure.nullable(),
  components: z.array(
    z.object({
      item: itemBrief,
      quantity: figure,
      short: figure.meta({ description: "What of it there is no stock for" }),
      expired: figure.meta({ description: "In stock, but expired" }),
      taken: z.array(taken),
      choices: z
        .array(taken.extend({ expiry: day.nullable() }))
        .meta({ description: "Lots or serials in stock, the suggested first; nothing of what has neither" }),
    }),
  ),
});

export const shipPreview = z.object({
  lines: z.array(previewLine),
  revenue: priceFigure,
  cost: costFigure.nullable(),
  margin: costFigure.nullable(),
  marginPercent: costFigure.nullable(),
  rest: z.boolean().meta({ description: "Whether something stays open after it" }),
  takesFrom: z
    .array(z.object({ item: itemBrief, quantity: figure, documents: z.array(z.string()) }))
    .meta({ description: "What is in stock for others in their turn" }),
  stop: z
    .string()
    .nullable()
    .meta({ description: "Why somebody has to go on anyway; null: nothing stops it" }),
});
export type ShipPreview = z.infer<typeof shipPreview>;

const shipmentPaper = z.enum(["delivery note", "bill"]);

const orderHead = documentBrief.extend({
  customer: firmBrief,
  due: day.nullable(),
  overdue: z.boolean(),
  reference: z.string(),
});

export const shippingRoutes = {
  readyToShip: ask("/api/orders/ready-to-ship", {
    permission: "look",
    summary: "Open orders that can leave complete today, and why the others can't, by due day",
    answer: z.object({
      ready: z.array(
        orderHead.extend({
          version,
          leaves: z
            .array(z.object({ line: ref, item: itemBrief, quantity: figure }))
            .meta({ description: "All that is open, in whole sets or units" }),
        }),
      ),
      waiting: z.array(
        orderHead.extend({
          why: z.enum(["short", "on its way", "price missing", "customer on hold"]),
          short: z.int().meta({ description: "Open lines of which not all is in stock" }),
          readyInPart: z.boolean(),
        }),
      ),
    }),
  }),
  previewShipment: askWith("/api/orders/:id/ship/preview", {
    permission: "look",
    summary: "What a shipment of an order would take, bring and cost; records nothing",
    ...byOrder,
    body: shipBody,
    answer: shipPreview,
  }),
  shipOrder: command("/api/orders/:id/ship", {
    permission: "ship",
    summary: "Ship an order, whole or in part: what leaves is taken from stock",
    ...byOrder,
    body: shipBody,
    answer: shipmentSheet,
  }),
  confirmDelivery: command("/api/purchases/:id/delivered", {
    permission: "receive",
    summary: "Record that a supplier delivered straight to the customer: receipt and shipment in one step",
    ...byId,
    body: receiveBody,
    answer: shipmentSheet,
  }),
  orderShipments: ask("/api/orders/:id/shipments", {
    permission: "look",
    summary: "The shipments of an order, the earliest first, and what they brought",
    ...byOrder,
    answer: z.object({
      shipments: z.array(shipmentSheet),
      messages: z
        .array(z.object({ id: ref, subject: z.string(), moment, sent: moment.nullable() }))
        .meta({ description: "Of the outbox, about the order and its shipments" }),
      ...money,
      marginPercent,
    }),
  }),
  orderPaper: ask("/api/orders/:id/paper", {
    permission: "look",
    summary: "The confirmation of an order, or a quote, as PDF: as the customer may see it",
    ...byOrder,
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
  sendOrder: command("/api/orders/:id/send", {
    permission: "sell",
    summary: "Put the confirmation of an order, or a quote, into the outbox",
    ...byOrder,
    answer: outboxMessage,
  }),
  shipments: ask("/api/shipments", {
    permission: "look",
    summary: "Shipments, the latest first",
    query: z.object(pageQuery),
    answer: z.object({ shipments: z.array(shipmentRow), ...pageEnd }),
  }),
  shipment: ask("/api/shipments/:id", {
    permission: "look",
    summary: "One shipment: what left, from where, and its margin",
    ...byId,
    answer: shipmentSheet,
  }),
  shipmentPaper: ask("/api/shipments/:id/paper", {
    permission: "look",
    summary: "The delivery note or the pro forma bill of a shipment as PDF: as the customer may see it",
    ...byId,
    query: z.object({ kind: shipmentPaper.default("delivery note") }),
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
  sendShipment: command("/api/shipments/:id/send", {
    permission: "ship",
    summary: "Put papers of a shipment into the outbox",
    ...byId,
    body: z.object({ papers: z.array(shipmentPaper).min(1, "Choose a paper.").max(2) }),
    answer: outboxMessage,
  }),
  undoShipment: command("/api/shipments/:id/undo", {
    permission: "ship",
    summary: "Undo a shipment: what left is in stock again, and open",
    ...byId,
    body: z.object({
      finishes: z.boolean().default(false).meta({ description: "Undo what was finished with it too" }),
    }),
    answer: shipmentSheet,
  }),
};

/** A shipment that says nothing but its day and lines. */
export const PLAIN_SHIPMENT = {
  finishes: [],
  note: "",
  parcels: null,
  weight: null,
  goOn: false,
  takeFromOthers: false,
} satisfies Omit<ShipBody, "day" | "lines">;
