import { documentBrief, firmBrief, itemBrief } from "./brief.ts";
import { buildSummary } from "./builds.ts";
import { needLine } from "./buying.ts";
import {
  byId,
  chosen,
  day,
  figure,
  id,
  once,
  pageEnd,
  pageQuery,
  quantity,
  quantityOrZero,
  ref,
  version,
} from "./fields.ts";
import {
  movedOrder,
  orderBody,
  orderPreview,
  orderRow,
  orderSheet,
  precedence,
  typedOrder,
  writtenOrder,
} from "./orders.ts";
import { ask, askWith, command, replace } from "./route.ts";
import { z } from "./zod.ts";

export const orderRoutes = {
  orders: ask("/api/orders", {
    permission: "look",
    summary: "Customers' orders, the earliest due first, then quotes, then what is cancelled",
    query: z.object({
      ...pageQuery,
      state: z
        .enum(["overdue", "short"])
        .optional()
        .meta({ description: "Only open ones that are so, as the rail counts them" }),
    }),
    answer: z.object({ orders: z.array(orderRow), ...pageEnd }),
  }),
  order: ask("/api/orders/:id", {
    permission: "look",
    summary: "One order: what each line has in stock, what is being built for it, and what is missing",
    ...byId,
    answer: orderSheet,
  }),
  exportOrder: ask("/api/orders/:id/export", {
    permission: "look",
    summary: "Take the lines of an order out as a spreadsheet; read as a list, it gives the same lines",
    ...byId,
    query: z.object({ format: z.enum(["csv", "xlsx"]).default("csv") }),
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
  previewOrder: askWith("/api/orders/preview", {
    permission: "look",
    summary:
      "What the lines of an order come to, at what margin, and how much of each is free; records nothing",
    body: typedOrder,
    answer: orderPreview,
  }),
  previewLosers: askWith("/api/orders/preview/losers", {
    permission: "look",
    summary: "Which other open orders would have less in stock or incoming, or leave later; records nothing",
    body: typedOrder,
    answer: z.object({ takesFrom: z.array(movedOrder) }),
  }),
  newOrder: command("/api/orders", {
    permission: "sell",
    summary: "Take an order, what it asks for is reserved; or give a quote, which reserves nothing",
    body: orderBody,
    answer: writtenOrder,
  }),
  changeOrder: replace("/api/orders/:id", {
    permission: "sell",
    summary: "Change an open order, or a quote",
    ...byId,
    body: orderBody,
    answer: writtenOrder,
  }),
  orderQuote: command("/api/orders/:id/order", {
    permission: "sell",
    summary: "Make a quote an order, as it was quoted: it gets a number of its own and reserves stock",
    ...byId,
    body: z.object({
      goOn: z.boolean().default(false).meta({
        description: "Though the quote has lapsed, or the customer is on hold or over the credit limit",
      }),
    }),
    answer: writtenOrder,
  }),
  cancelOrder: command("/api/orders/:id/cancel", {
    permission: "sell",
    summary:
      "Cancel an order of which nothing was shipped: its reservations are free again, and builds no longer serve it",
    ...byId,
    answer: orderSheet,
  }),
  deliverBySupplier: command("/api/orders/:id/deliver-by-supplier", {
    permission: "buy",
    summary:
      "Put what suppliers deliver straight to the customer on drafts to them, with the delivery address; what stands on one is not doubled",
    ...byId,
    answer: z.object({ purchases: z.array(documentBrief) }),
  }),
  closeRest: command("/api/orders/:id/close", {
    permission: "sell",
    summary:
      "Close what is still open of an order, or of some of its lines: it is not to be shipped any more",
    ...byId,
    body: z.object({
      lines: z.array(ref).max(500).default([]).meta({ description: "Only of these lines; none: of all" }),
    }),
    answer: orderSheet,
  }),
  reopenRest: command("/api/orders/:id/reopen", {
    permission: "sell",
    summary: "Open again what was closed of an order; it is reserved anew",
    ...byId,
    answer: orderSheet,
  }),
  precedenceMoves: askWith("/api/orders/:id/precedence/preview", {
    permission: "look",
    summary: "Whose promise would move if an order had another precedence; records nothing",
    ...byId,
    body: z.object({ precedence }),
    answer: z.object({ day: day.nullable(), moves: z.array(movedOrder) }),
  }),
  setPrecedence: replace("/api/orders/:id/precedence", {
    permission: "sell",
    summary:
      "Serve an order before others: 1 is first; orders without a precedence come last, by wanted date",
    ...byId,
    body: z.object({ precedence }),
    answer: orderSheet,
  }),
  promiseOrder: replace("/api/orders/:id/promise", {
    permission: "sell",
    summary: "Say which day was promised to the customer, for all lines or some; no day takes a promise back",
    ...byId,
    body: z.object({
      day: day.nullable(),
      lines: z.array(ref).default([]).meta({ description: "Only these lines; none: all" }),
    }),
    answer: orderSheet,
  }),
  takeDefinition: replace("/api/orders/:id/lines/:line/new-definition", {
    permission: "sell",
    summary:
      "Take a kit as it is defined now, in the place of the copy that a line keeps; what was changed in it is undone",
    params: byId.params.extend({ line: id }),
    body: z.object({ goOn: orderBody.shape.goOn }),
    answer: writtenOrder,
  }),
  supplyOrder: command("/api/orders/:id/supply", {
    permission: "sell",
    summary:
      "Put all that an order lacks on builds and purchase orders, with what its builds lack, net of stock, deliveries and drafts",
    ...byId,
    answer: z.object({
      builds: z.array(buildSummary),
      purchases: z.array(documentBrief),
      unsupplied: z
        .array(z.string())
        .meta({ description: "Codes of what nobody supplies and no list makes" }),
    }),
  }),
  followOrder: command("/api/orders/:id/builds/:build/follow", {
    permission: "sell",
    summary: "Change a build that is for an order, as its change offered",
    params: byId.params.extend({ build: id }),
    body: z.object({
      quantity: quantityOrZero
        .nullable()
        .default(null)
        .meta({ description: "null: as it is; 0 cancels a draft that is for nobody any more" }),
      due: day.nullable().default(null).meta({ description: "null: as it is" }),
    }),
    answer: orderSheet,
  }),
  ordersToFollow: ask("/api/orders/of-build/:id", {
    permission: "look",
    summary: "How orders could follow a build that is for them: to its day, or to what it and stock give",
    ...byId,
    answer: z.object({
      offers: z.array(
        documentBrief.extend({
          version,
          line: ref,
          quantity: z.object({ from: figure, to: figure, unit: z.string() }).nullable(),
          due: z.object({ from: day.nullable(), to: day }).nullable(),
        }),
      ),
    }),
  }),
  followBuild: replace("/api/orders/:id/lines/:line/follow", {
    permission: "sell",
    summary: "Change an order as a build that is for it offers",
    params: byId.params.extend({ line: id }),
    body: z.object({
      quantity: quantity.nullable().default(null).meta({ description: "Of the line; null: as it is" }),
      due: day.nullable().default(null).meta({ description: "Of the order; null: as it is" }),
    }),
    answer: writtenOrder,
  }),
  linesToBuild: ask("/api/orders/to-build", {
    permission: "look",
    summary:
      "Lines of open orders that lack products which can be built, beyond what drafts are to give, by due day",
    answer: z.object({
      lines: z.array(
        z.object({
          order: ref,
          number: z.string(),
          customer: firmBrief,
          due: day.nullable(),
          overdue: z.boolean(),
          line: ref,
          item: itemBrief.meta({
            description: "What is to be built: the line's own item, or a content of its kit",
          }),
          missing: figure.meta({ description: "Neither in stock, nor coming, nor on a draft" }),
        }),
      ),
    }),
  }),
  acceptSuggestions: command("/api/reorder/accept", {
    permission: "buy",
    summary:
      "Put suggestions of the reorder view on drafts, linked to the open orders that lack what they bring; the rest is for stock",
    body: z.object({
      buy: z
        .array(needLine.omit({ for: true }))
        .max(2000, "Up to 2000 at once.")
        .check(once((line) => line.item, "This item is named")),
      build: z
        .array(z.object({ item: chosen("a product"), quantity, day: day.nullable().default(null) }))
        .max(200, "Up to 200 at once.")
        .check(once((line) => line.item, "This product is named")),
    }),
    answer: z.object({ builds: z.array(documentBrief), purchases: z.array(documentBrief) }),
  }),
  buildForLines: command("/api/orders/builds", {
    permission: "sell",
    summary:
      "Make what lines of any open orders lack: one draft build a product, due with the earliest and linked to all",
    body: z.object({ lines: z.array(ref).min(1, "Select at least one line.").max(500) }),
    answer: z.object({ builds: z.array(buildSummary) }),
  }),
  buildForOrder: command("/api/orders/:id/builds", {
    permission: "sell",
    summary: "Make a draft build of each product that is missing, linked to its line",
    ...byId,
    body: z.object({
      lines: z.array(ref).default([]).meta({ description: "Only of these lines; none: of all" }),
    }),
    answer: z.object({ builds: z.array(buildSummary) }),
  }),
};
