import { decimal } from "@yosegi/core";
import { firmBrief, itemBrief } from "./brief.ts";
import {
  byId,
  chosen,
  costFigure,
  figure,
  once,
  pageEnd,
  pageQuery,
  per,
  price,
  priceFigure,
  quantityOrZero,
  ref,
  share,
  version,
} from "./fields.ts";
import { customerGroup } from "./firms.ts";
import { ask, command, replace } from "./route.ts";
import { z } from "./zod.ts";

export const priceRow = itemBrief.extend({
  unitCost: costFigure,
  price: priceFigure,
  margin: costFigure,
  percent: costFigure.nullable(),
  suggested: priceFigure.nullable().meta({ description: "The price with the margin wished for" }),
  ownPrice: z.boolean().meta({ description: "false: it follows from a kit's contents" }),
});

export type PriceRow = z.infer<typeof priceRow>;

const priceListHead = z.object({
  id: ref,
  customer: firmBrief.nullable().meta({ description: "Whose list it is; null: a group's" }),
  group: z.string().meta({ description: "The group of customers whose list it is; empty: a customer's" }),
  prices: z.int(),
});
export type PriceListHead = z.infer<typeof priceListHead>;

export const priceListSheet = priceListHead
  .extend({
    version,
    steps: z.array(
      z.object({
        item: itemBrief,
        from: figure.meta({ description: "The price counts from so many on" }),
        price: priceFigure,
        pricePer: z.string(),
      }),
    ),
  })
  .meta({ id: "PriceListSheet" });
export type PriceListSheet = z.infer<typeof priceListSheet>;

const steps = z
  .array(
    z.object({
      item: chosen("an item"),
      from: quantityOrZero.default("0").meta({ description: "The price counts from so many on" }),
      price,
      pricePer: per,
    }),
  )
  .min(1, "A price list has at least one price.")
  .max(5000, "Up to 5000 prices.")
  .check(once(({ item, from }) => `${item} from ${canonical(from)}`, "This item and quantity is named"));

/** What is no number has a message of its own. */
const canonical = (text: string): string => (/^\d+(\.\d+)?$/.test(text) ? decimal(text).toFixed() : text);

export const priceRoutes = {
  priceLists: ask("/api/price-lists", {
    permission: "look",
    summary: "Price lists of groups of customers, and of customers",
    query: z.object(pageQuery),
    answer: z.object({ lists: z.array(priceListHead), ...pageEnd }),
  }),
  priceList: ask("/api/price-lists/:id", {
    permission: "look",
    summary: "One price list: the price of each item from which quantity on",
    ...byId,
    answer: priceListSheet,
  }),
  newPriceList: command("/api/price-lists", {
    permission: "prices",
    summary: "Make the price list of a customer, or of a group of customers",
    body: z.object({
      customer: ref.nullable().default(null),
      group: customerGroup.default(""),
      steps,
    }),
    answer: priceListSheet,
  }),
  changePriceList: replace("/api/price-lists/:id", {
    permission: "prices",
    summary: "Write the prices of a price list anew",
    ...byId,
    body: z.object({ steps }),
    answer: priceListSheet,
  }),
  removePriceList: command("/api/price-lists/:id/remove", {
    permission: "prices",
    summary: "Remove a price list; orders keep the prices that they have",
    ...byId,
    answer: z.object({}),
  }),
  setSerialPrice: command("/api/items/:id/serials/:serial/price", {
    permission: "prices",
    summary: "Give one unit a price of its own, as after a rework, which orders offer; null: as its item",
    params: byId.params.extend({ serial: z.string().min(1).max(60) }),
    body: z.object({ price: price.nullable() }),
    answer: z.object({}),
  }),
  prices: ask("/api/prices", {
    permission: "look",
    summary: "Products and kits whose margin is below a wish",
    query: z.object({
      ...pageQuery,
      wish: share.optional().meta({ description: "Percent; left out: as last wished" }),
    }),
    answer: z.object({ wish: figure, rows: z.array(priceRow), ...pageEnd }),
  }),
  reprice: command("/api/prices", {
    permission: "prices",
    summary: "Give several items their new prices, and remember the margin wished for",
    body: z.object({
      wish: share,
      prices: z
        .array(z.object({ item: ref, price }))
        .max(5000, "Up to 5000 prices at once.")
        .check(once((p) => p.item, "This item is named")),
    }),
    answer: z.object({ changed: z.int() }),
  }),
};
