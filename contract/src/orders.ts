import { CREDIT_STOPS, ORDER_STAGES } from "@yosegi/core";
import type { Parsed } from "./amounts.ts";
import { documentBrief, firmBrief, itemBrief } from "./brief.ts";
import { buildStage } from "./builds.ts";
import {
  chosen,
  costFigure,
  day,
  discount,
  figure,
  longText,
  moment,
  note,
  once,
  per,
  price,
  priceFigure,
  quantity,
  quantityOrZero,
  ref,
  serial,
  short,
  taxFigures,
  version,
} from "./fields.ts";
import { priceRule, swap } from "./kits.ts";
import { z } from "./zod.ts";

export const orderStage = z.enum(ORDER_STAGES);

/** Where a text stands among an order's lines. */
const before = z
  .int()
  .nonnegative()
  .meta({ description: "So many lines stand before it; from the last line on: at the end" });

const taxMoney = {
  taxes: taxFigures,
  gross: priceFigure.nullable().meta({ description: "The total with tax; null where a line has no price" }),
};

export const orderRow = z
  .object({
    id: ref,
    number: z.string(),
    customer: firmBrief,
    stage: orderStage,
    due: day.nullable(),
    validUntil: day.nullable().meta({ description: "Of a quote, and of what was ordered from one" }),
    lapsed: z.boolean().meta({ description: "A quote that is not valid any more" }),
    reference: z.string().meta({ description: "The customer's own number" }),
    lines: z.int().meta({ description: "Of an open order, those of which something is still to leave" }),
    linesReady: z.int().meta({ description: "Open lines of which all is there, in the order's turn" }),
    linesReadyInPart: z.int().meta({ description: "Other open lines of which a whole set or unit is there" }),
    linesMissing: z.int().meta({ description: "Lines of which something is neither there nor being built" }),
    overdue: z.boolean(),
    made: moment,
  })
  .meta({ id: "OrderRow" });
export type OrderRow = z.infer<typeof orderRow>;

/** A build that works for a line, and what it gives it. */
const lineBuild = z.object({
  id: ref,
  number: z.string(),
  stage: buildStage,
  due: day.nullable(),
  made: figure,
  coming: figure,
});

const take = z.object({
  item: itemBrief,
  per: figure.meta({ description: "In one of the line" }),
  open: figure.meta({ description: "Still to leave, and reserved for the order" }),
  shipped: figure,
  closed: figure,
  packed: figure.meta({ description: "Of what is open, what was fetched for it already" }),
  ready: figure.meta({ description: "There for it, in its turn, with what is packed" }),
  coming: figure.meta({ description: "Being built for it, or on its way for nobody else, in its turn" }),
  missing: figure.meta({ description: "Neither in stock for it nor coming" }),
  planned: figure.meta({ description: "Of what is missing, what draft builds are to give" }),
  canBeBuilt: z.boolean(),
  finishWhenShipped: z
    .boolean()
    .meta({ description: "Shipping finishes what is being built of it for the line" }),
  builds: z.array(lineBuild),
  purchases: z
    .array(
      documentBrief.extend({
        stage: z.string(),
        item: itemBrief.pick({ id: true, code: true, unit: true }),
        quantity: figure,
        expected: day.nullable(),
      }),
    )
    .meta({ description: "What is being bought for it, itself or parts of what is built for it" }),
});

/** Something that a line waits for. */
const waiting = z.object({
  item: itemBrief,
  quantity: figure,
  day: day.nullable().meta({ description: "null: unknown" }),
  how: z.enum(["on its way", "to build", "to order", "unknown"]).meta({
    description: "unknown: no supplier lead time, parts list or expected day",
  }),
  document: documentBrief
    .extend({ kind: z.enum(["build", "purchase"]) })
    .nullable()
    .meta({ description: "Of what is on its way" }),
  overdue: z.boolean(),
});
export type Waiting = z.infer<typeof waiting>;

const linePromise = z.object({
  day: day.nullable().meta({ description: "When the whole line could leave; null: unknown" }),
  waitsFor: z.array(waiting).meta({ description: "What is not in stock for it" }),
});
export type LinePromiseAnswer = z.infer<typeof linePromise>;

/** When the whole order could leave, and what would help. */
const orderPromise = z.object({
  day: day.nullable().meta({ description: "null: unknown" }),
  complete: z.boolean().nullable().meta({ description: "By the wanted date; null where there is none" }),
  heldBy: z
    .object({
      line: z.int().meta({ description: "Place of the line that is last, counted from 0" }),
      waitsFor: waiting,
      stockFor: z
        .array(z.object({ id: ref, number: z.string(), customer: z.string(), quantity: figure }))
        .meta({ description: "Orders whose turn is before, and what they have in stock of the same item" }),
    })
    .nullable()
    .meta({ description: "null where all is in stock" }),
});
export type OrderPromiseAnswer = z.infer<typeof orderPromise>;

/** An order that has less in stock or on its way, or whose promise moves. */
export const movedOrder = z.object({
  id: ref,
  number: z.string(),
  customer: z.string(),
  before: day.nullable(),
  after: day.nullable().meta({ description: "When all of it could leave; null: unknown" }),
});
export type MovedOrder = z.infer<typeof movedOrder>;

/** What is in a set that is ordered, and what may be changed of it. */
const orderedSet = z.object({
  contentsShown: z.boolean().meta({ description: "Whether the customer sees what is in it" }),
  mayBeAddedTo: z.boolean(),
  priceRule,
  changed: z.boolean().meta({ description: "Not as the kit defines it" }),
  movedOn: z.boolean().meta({ description: "The kit was changed since; the line keeps what it had" }),
  contents: z.array(
    z.object({
      of: z.int().nullable().meta({ description: "Place of the kit's content it stands for; null: added" }),
      item: itemBrief.extend({ free: figure }),
      quantity: figure.meta({ description: "For one set" }),
      share: priceFigure.nullable().meta({ description: "What of the price of one set falls on it" }),
      margin: costFigure.nullable().meta({ description: "Of one set, at the current cost" }),
    }),
  ),
  defined: z.array(
    z.object({
      of: z.int().meta({ description: "Place among the kit's contents, counted from 0" }),
      item: itemBrief.extend({ free: figure }),
      quantity: figure,
      swap,
      swaps: z.array(itemBrief.extend({ free: figure })),
      quantityMayChange: z.boolean(),
      mayBeLeftOut: z.boolean(),
    }),
  ),
});
export type OrderedSet = z.infer<typeof orderedSet>;

export const orderLine = z.object({
  id: ref,
  item: itemBrief,
  quantity: figure,
  price: priceFigure.nullable(),
  pricePer: z.string().meta({ description: "The unit or pack that the price is for; empty: the stock unit" }),
  discount: figure.meta({ description: "Percent" }),
  total: priceFigure.nullable(),
  taxRate: figure.meta({ description: "Percent" }),
  serial: z.string().meta({ description: "The one unit that it asks for; empty: any" }),
  finishWhenShipped: z.boolean().nullable().meta({ description: "As it was said; null: as the item says" }),
  bySupplier: z.boolean().meta({ description: "Its supplier delivers it straight to the customer" }),
  promise: linePromise.nullable().meta({ description: "null once the order has ended" }),
  promised: day.nullable().meta({ description: "The day that was promised to the customer" }),
  late: z.boolean().meta({ description: "Leaves after the promised day, or nobody knows when" }),
  set: orderedSet.nullable().meta({ description: "null for what is no kit" }),
  ready: figure.meta({ description: "Whole sets or units that could leave now" }),
  shipped: figure.meta({ description: "Whole sets or units that left" }),
  open: figure.meta({ description: "Whole sets or units that are still to leave, or to be completed" }),
  closed: figure,
  takes: z
    .array(take)
    .meta({ description: "What it takes from stock: itself, or the contents of a kit; nothing for work" }),
});
export type OrderLine = z.infer<typeof orderLine>;

export const orderSheet = orderRow
  .extend({
    version,
    note: z.string(),
    address: z.string().meta({ description: "Where it is delivered; kept as the order was created" }),
    terms: z.string(),
    costTag: z.string(),
    quote: z.string().meta({ description: "The number of the quote it was ordered from; empty: none" }),
    texts: z.array(z.object({ before, text: z.string() })).meta({ description: "Lines of text" }),
    ...taxMoney,
    precedence: z.int().nullable().meta({ description: "1 is served first; null: none was given" }),
    promise: orderPromise.nullable().meta({ description: "null once the order has ended" }),
    toBuy: z.array(z.string()).meta({
      description:
        "Codes of what is missing, itself or as a part of what is to be built, and on no draft yet",
    }),
    promised: day.nullable().meta({ description: "The latest promised day of its lines" }),
    late: z.boolean().meta({ description: "Whether a line leaves after its promised day" }),
    orderLines: z.array(orderLine),
    total: priceFigure.nullable().meta({ description: "null while a line has no price" }),
    history: z.array(
      z.object({
        what: z.enum([
          "created",
          "ordered",
          "rest closed",
          "cancelled",
          "taken on hold",
          "taken over the credit limit",
        ]),
        person: z.string(),
        moment,
      }),
    ),
  })
  .meta({ id: "OrderSheet" });
export type OrderSheet = z.infer<typeof orderSheet>;

/** An order as it was written, and whom it makes wait. */
export const writtenOrder = orderSheet.extend({
  builds: z
    .array(documentBrief)
    .meta({ description: "Builds that were made or added to for what is to be built" }),
  offers: z
    .array(
      documentBrief.extend({
        stage: buildStage,
        quantity: z
          .object({ from: figure, to: figure, unit: z.string() })
          .nullable()
          .meta({ description: "What it would make without what its lines no longer ask for" }),
        due: z.object({ from: day.nullable(), to: day.nullable() }).nullable(),
      }),
    )
    .meta({ description: "Builds for this order that could follow its change; nothing is changed silently" }),
  takesFrom: z.array(movedOrder).meta({
    description: "Other open orders that have less in stock or incoming than before, or leave later",
  }),
});

/** What is sold on a line, and at what price. */
const soldLine = z.object({
  item: chosen("an item"),
  quantity,
  price: price.nullable().default(null).meta({ description: "null: as in the catalog" }),
  pricePer: per,
  discount: discount.default("0").meta({ description: "Percent" }),
});

/** What is in one set. */
const contentBody = z.object({
  of: z
    .int()
    .nonnegative()
    .nullable()
    .meta({ description: "Place of the kit's content it stands for, counted from 0; null: it is added" }),
  item: chosen("an item"),
  quantity,
});

const lineBody = soldLine.extend({
  contents: z
    .array(contentBody)
    .min(1, "A set has at least one content.")
    .max(200, "A set has up to 200 contents.")
    .nullable()
    .default(null)
    .meta({ description: "Of a kit; null: as they were on this line, or as the kit says on a new one" }),
  serial: serial
    .default("")
    .meta({ description: "Asks for this one unit, whose own price is offered; empty: any" }),
  finishWhenShipped: z.boolean().nullable().default(null).meta({
    description: "Shipping finishes what is being built for the line; null: as its item says",
  }),
  bySupplier: z
    .boolean()
    .default(false)
    .meta({ description: "Its supplier delivers it straight to the customer; it reserves nothing" }),
  toBuild: quantityOrZero.nullable().default(null).meta({
    description: "Of a built item: so many from builds that are for this line; the rest is from stock",
  }),
  proposeBuild: z.boolean().default(false).meta({
    description:
      "Where `toBuild` says nothing: build what free stock does not cover, or all where the item says so",
  }),
  newDefinition: z
    .boolean()
    .default(false)
    .meta({ description: "Take the kit as it is defined now, in the place of the line's own copy" }),
  id: ref.nullable().default(null).meta({ description: "Of a line that is there; null: a new one" }),
});

const money = {
  total: priceFigure.nullable().meta({ description: "null where there is no price" }),
  margin: costFigure.nullable().meta({ description: "At the current cost; null where that is not known" }),
  marginPercent: costFigure.nullable(),
};

/** How a line of a built item is covered; both add up to what is open. */
const lineCover = z.object({
  fromStock: figure,
  toBuild: figure.meta({ description: "From builds that are for the line, or would be" }),
});

/** A price of a line, and where it is from. */
const linePrice = z.object({
  price: priceFigure,
  pricePer: z.string(),
  of: z.enum(["typed", "contents", "item", "serial", "customer", "group"]).meta({
    description:
      "Typed, follows the contents of a kit, the item's own, the serial number's, of the customer's price list, of their group's",
  }),
  from: figure.nullable().meta({ description: "Of a price list: from so many on" }),
});

export const orderPreview = z.object({
  ...money,
  ...taxMoney,
  customer: z
    .object({
      note: z.string(),
      onHold: z.boolean(),
      creditLimit: priceFigure.nullable(),
      used: priceFigure.meta({ description: "What other open orders of the customer come to, with tax" }),
      stop: z
        .enum(CREDIT_STOPS)
        .nullable()
        .meta({ description: "Why the order needs somebody to go on anyway" }),
    })
    .nullable(),
  promise: orderPromise,
  lines: z.array(
    z.object({
      ...money,
      free: figure
        .nullable()
        .meta({ description: "Free now, or whole sets of a kit; null for what is not counted" }),
      short: figure.nullable().meta({ description: "Of the quantity, what is not free now" }),
      promise: linePromise,
      set: orderedSet.nullable().meta({ description: "null for what is no kit" }),
      price: linePrice.nullable().meta({ description: "The price that counts; null where there is none" }),
      offer: linePrice.nullable().meta({ description: "The price that counts where none is typed" }),
      taxRate: figure.meta({ description: "Percent" }),
      serials: z
        .array(z.object({ serial: z.string(), price: priceFigure }))
        .meta({ description: "Units in stock with a price of their own that no order asks for" }),
      cover: lineCover.nullable().meta({ description: "null for what can't be built" }),
      last: z
        .object({
          number: z.string(),
          price: priceFigure,
          pricePer: z.string(),
          discount: figure,
        })
        .nullable()
        .meta({ description: "What this customer was last charged" }),
    }),
  ),
});
export type OrderPreview = z.infer<typeof orderPreview>;

export const precedence = z
  .int("Enter a whole number.")
  .min(1, "Precedence is 1 (first) to 999.")
  .max(999, "Precedence is 1 (first) to 999.")
  .nullable();

export const orderBody = z.object({
  customer: chosen("a customer"),
  due: day.nullable().default(null),
  validUntil: day
    .nullable()
    .default(null)
    .meta({ description: "Of a quote, which reserves nothing; null: it is an order" }),
  reference: short("The reference").default(""),
  address: longText("The delivery address", 500).default(""),
  terms: longText("The terms", 500).default(""),
  costTag: short("The cost tag").default(""),
  note: note.default(""),
  goOn: z.boolean().default(false).meta({
    description: "Take it though the customer is on hold, or over the credit limit; who did is recorded",
  }),
  lines: z
    .array(
      lineBody.extend({
        promised: day.nullable().default(null).meta({ description: "The day promised to the customer" }),
      }),
    )
    .min(1, "An order has at least one line.")
    .max(500, "Up to 500 lines.")
    .check(once((line) => line.id, "This line is named")),
  texts: z
    .array(z.object({ before, text: longText("The text", 500).min(1, "The text is missing.") }))
    .max(200, "Up to 200 lines of text.")
    .default([])
    .meta({ description: "Lines that are only text" }),
});
export type OrderBody = z.infer<typeof orderBody>;

/** A new line with nothing said but its item and quantity. */
export const PLAIN_ORDER_LINE = {
  id: null,
  price: null,
  pricePer: "",
  discount: "0",
  promised: null,
  contents: null,
  serial: "",
  finishWhenShipped: null,
  bySupplier: false,
  toBuild: null,
  proposeBuild: false,
  newDefinition: false,
} satisfies Partial<OrderBody["lines"][number]>;

/** The same with its amounts parsed. */
export type OrderInput = Parsed<typeof orderBody>;

/** An order as it is typed. */
export const typedOrder = z.object({
  order: ref
    .nullable()
    .default(null)
    .meta({ description: "The order that is changed: what it reserves is free for it" }),
  customer: ref.nullable().default(null),
  due: day.nullable().default(null),
  lines: z.array(lineBody).max(500, "Up to 500 lines."),
});
