import { ITEM_STATES, LACKS, LOCATION_KINDS } from "@yosegi/core";
import type { Parsed } from "./amounts.ts";
import { costRate, drawnAt, itemBrief, itemKind, itemState, pack, priceRate, tracking } from "./brief.ts";
import { customValue } from "./customfields.ts";
import {
  bin,
  byId,
  code,
  cost,
  costFigure,
  day,
  figure,
  longText,
  lotPattern,
  name,
  once,
  per,
  price,
  priceFigure,
  quantityOrZero,
  ref,
  short,
  taxRate,
  version,
  wholeOrNull,
} from "./fields.ts";
import { attachedFile } from "./files.ts";
import { itemSupplier } from "./items.ts";
import { kit } from "./kits.ts";
import { partsList } from "./lists.ts";
import { ask, askWith, command, replace } from "./route.ts";
import { z } from "./zod.ts";

export const itemRow = itemBrief
  .extend({
    group: z.string(),
    drawnAt: drawnAt.meta({ description: "As its group says: whether it is handed out or deducted" }),
    notForSale: z.boolean(),
    alwaysBuild: z.boolean(),
    finishWhenShipped: z.boolean(),
    lotFixed: z.boolean(),
    taxRate: figure.nullable().meta({ description: "Percent; null: the company's" }),
    hasList: z.boolean().meta({ description: "A parts list is in force, or its contents are written" }),
    onHand: figure,
    reserved: figure,
    free: figure.meta({ description: "Of a kit: whole sets that its contents allow" }),
    value: costFigure,
    unitCost: costFigure.nullable().meta({ description: "For one, rounded: only to be shown" }),
    currentCost: costRate.nullable(),
    price: priceFigure.nullable(),
    pricePer: z.string(),
    priceRate: priceRate.nullable(),
    lacks: z.array(z.enum(LACKS)),
  })
  .meta({ id: "ItemRow" });

export type ItemRow = z.infer<typeof itemRow>;

const itemFields = {
  name,
  kind: itemKind,
  unit: z.string().min(1, "The unit is missing."),
  tracking,
  group: z.string(),
  barcode: short("The barcode"),
  cost: cost.nullable(),
  costPer: per,
  price: price.nullable(),
  pricePer: per,
  store: z.string(),
  bin,
  reorderLevel: quantityOrZero.nullable(),
  buildDays: wholeOrNull("The build days").meta({ description: "Calendar days that a build takes" }),
  shelfLife: wholeOrNull("The shelf life").meta({ description: "Days until a finished lot expires" }),
  lotPattern,
  warrantyMonths: wholeOrNull("The warranty"),
  maker: name.or(z.literal("")),
  makerNumber: short("The maker's number"),
  state: itemState,
  notStockTracked: z.boolean().meta({ description: "Costs and prints, is never stocked and never limits" }),
  notForSale: z.boolean().meta({ description: "Offered on no order" }),
  alwaysBuild: z.boolean().meta({ description: "Orders for it are built, whatever is in stock" }),
  finishWhenShipped: z
    .boolean()
    .meta({ description: "Shipping it finishes the builds that are for the order" }),
  lotFixed: z
    .boolean()
    .meta({ description: "A picker takes the suggested lot, and another only with a reason" }),
  taxRate: taxRate.nullable().meta({ description: "Percent; null: the company's" }),
  packs: z.array(pack).max(20, "An item has up to 20 packs."),
  notes: longText("The note", 2000),
};

export const itemChange = z.object(itemFields);

/** A new item needs a few fields only; the others have the value that most items have. */
export const newItem = z.object({
  code,
  ...itemFields,
  tracking: tracking.default("none"),
  group: itemFields.group.default(""),
  barcode: itemFields.barcode.default(""),
  cost: itemFields.cost.default(null),
  price: itemFields.price.default(null),
  store: itemFields.store.default(""),
  bin: bin.default(""),
  reorderLevel: itemFields.reorderLevel.default(null),
  buildDays: itemFields.buildDays.default(null),
  shelfLife: itemFields.shelfLife.default(null),
  lotPattern: lotPattern.default(""),
  warrantyMonths: itemFields.warrantyMonths.default(null),
  maker: itemFields.maker.default(""),
  makerNumber: itemFields.makerNumber.default(""),
  state: itemState.default("active"),
  notStockTracked: itemFields.notStockTracked.default(false),
  notForSale: itemFields.notForSale.default(false),
  alwaysBuild: itemFields.alwaysBuild.default(false),
  finishWhenShipped: itemFields.finishWhenShipped.default(false),
  lotFixed: itemFields.lotFixed.default(false),
  taxRate: itemFields.taxRate.default(null),
  packs: itemFields.packs.default([]),
  notes: itemFields.notes.default(""),
});

export type NewItem = z.infer<typeof newItem>;
/** The same with its amounts parsed. */
export type NewItemInput = Parsed<typeof newItem>;

export const itemSheet = itemRow
  .extend({
    version,
    cost: costFigure.nullable().meta({ description: "Standard cost" }),
    costPer: z.string(),
    lastCost: costFigure.nullable().meta({ description: "For one unit at the last receipt" }),
    ownPrice: priceFigure
      .nullable()
      .meta({ description: "Its own price; a kit's may follow from its contents" }),
    barcode: z.string(),
    store: z.string(),
    bin: z.string(),
    reorderLevel: figure.nullable(),
    buildDays: z.int().nullable(),
    shelfLife: z.int().nullable(),
    lotPattern: z.string(),
    warrantyMonths: z.int().nullable(),
    maker: z.string(),
    makerNumber: z.string(),
    notes: z.string(),
    inUse: z.string().nullable().meta({ description: "What keeps kind, unit and tracking as they are" }),
    suppliers: z.array(
      itemSupplier.extend({
        firm: ref,
        name: z.string(),
        price: costFigure.nullable(),
        minimum: figure.nullable(),
      }),
    ),
    custom: z.array(customValue),
    files: z.array(attachedFile),
    expired: figure,
    stockByBin: z.array(
      z.object({
        kind: z.enum(LOCATION_KINDS),
        store: z.string(),
        bin: z.string().meta({ description: "The bin; at a bench the build, of what is packed the order" }),
        lot: z.string(),
        serial: z.string(),
        expiry: day.nullable(),
        expired: z.boolean(),
        quantity: figure,
        price: priceFigure.nullable().meta({ description: "Of this serial number alone; null: as the item" }),
        custom: z.array(customValue),
      }),
    ),
    reservedBy: z
      .array(z.object({ build: ref.nullable(), order: ref.nullable(), number: z.string(), quantity: figure }))
      .meta({ description: "Each either a build or a customer's order" }),
    incoming: z
      .array(
        z.object({
          build: ref.nullable(),
          purchase: ref.nullable(),
          number: z.string(),
          quantity: figure,
          day: day.nullable(),
        }),
      )
      .meta({ description: "What is on its way to stock, the first that arrives first" }),
    list: partsList.nullable().meta({ description: "Its main list as it is in force today" }),
    kit: kit.nullable(),
  })
  .meta({ id: "ItemSheet" });

export type ItemSheet = z.infer<typeof itemSheet>;

export const SORTS = ["code", "name", "kind", "free", "onHand", "price"] as const;

export const use = z.object({
  what: z.enum(["list", "substitute", "kit", "swap", "build", "purchase", "order"]),
  id: ref.meta({ description: "Of the product, kit, build, purchase order or order" }),
  code: z.string(),
  name: z.string(),
  detail: z.string().meta({ description: "Which list and revision, or the stage" }),
  quantity: figure,
  unit: z.string(),
});

export type Use = z.infer<typeof use>;

const severalItems = z
  .array(ref)
  .min(1, "Select at least one item.")
  .max(1000)
  .check(once((id) => id, "This item is named"));

/** What became of several items: those that were changed, with their state before, and why others were not. */
const severalDone = z.object({
  done: z.array(z.object({ id: ref, code: z.string(), before: itemState })),
  refused: z.array(z.object({ id: ref, code: z.string(), why: z.string() })),
});

export const itemSheetRoutes = {
  items: ask("/api/items", {
    permission: "look",
    summary: "Items, with what is on hand, reserved and free",
    query: z.object({
      search: z.string().max(200).default("").meta({ description: "Words that code or name must contain" }),
      kind: itemKind.optional(),
      group: z.string().optional(),
      state: z
        .enum([...ITEM_STATES, "all"])
        .optional()
        .meta({ description: "Left out: all but archived" }),
      lacking: z.stringbool().optional().meta({ description: "Only those that lack something" }),
      sort: z.enum(SORTS).default("code"),
      descending: z.stringbool().default(false),
      after: z.string().max(400).optional().meta({ description: "`next` of the page before" }),
      limit: z.coerce.number().int().min(1).max(1000).default(200),
    }),
    answer: z.object({
      items: z.array(itemRow),
      total: z.int(),
      next: z.string().nullable(),
      archived: z.int().meta({
        description: "How many more match but are archived, where those are left out; on the first page",
      }),
    }),
  }),
  item: ask("/api/items/:id", {
    permission: "look",
    summary: "One item, with its stock and its parts list or contents",
    ...byId,
    answer: itemSheet,
  }),
  lookUp: askWith("/api/items/look-up", {
    permission: "look",
    summary: "Items by their codes or barcodes, in the order asked; null where there is none",
    body: z.object({ codes: z.array(z.string().max(200)).max(1000, "Up to 1000 codes at once.") }),
    answer: z.object({ items: z.array(itemRow.nullable()) }),
  }),
  newItem: command("/api/items", {
    permission: "items",
    summary: "Make an item",
    body: newItem,
    answer: itemRow,
  }),
  copyItem: command("/api/items/:id/copy", {
    permission: "items",
    summary: "Make an item like another, with its suppliers and its parts list or contents",
    ...byId,
    body: z.object({ code, name }),
    answer: itemRow,
  }),
  changeItem: replace("/api/items/:id", {
    permission: "items",
    summary: "Change an item; what its history depends on stays",
    ...byId,
    body: itemChange,
    answer: itemRow,
  }),
  setItemStates: command("/api/items/states", {
    permission: "items",
    summary:
      "Archive several items, or bring them back; what can't be is named and keeps none of the others back",
    body: z.object({ items: severalItems, state: itemState }),
    answer: severalDone,
  }),
  removeItems: command("/api/items/remove", {
    permission: "items",
    summary:
      "Remove several items that were never used; what can't be is named and keeps none of the others back",
    body: z.object({ items: severalItems }),
    answer: severalDone,
  }),
  removeItem: command("/api/items/:id/remove", {
    permission: "items",
    summary: "Remove an item that was never used",
    ...byId,
    answer: z.object({}),
  }),
  whereUsed: ask("/api/items/:id/where-used", {
    permission: "look",
    summary: "Every list, kit and open document with this item",
    ...byId,
    answer: z.object({ uses: z.array(use) }),
  }),
};
