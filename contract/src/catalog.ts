import { DIMENSIONS, ITEM_STATES, LACKS } from "@yosegi/core";
import { z } from "zod";
import { drawnAt, itemBrief, itemKind, itemState, pack, rate, tracking } from "./brief.ts";
import {
  bin,
  code,
  cost,
  day,
  figure,
  id,
  longText,
  lotPattern,
  name,
  per,
  price,
  quantity,
  quantityOrZero,
  ref,
  short,
  web,
  wholeNumber,
} from "./fields.ts";
import { attachedFile } from "./files.ts";
import { kit } from "./kits.ts";
import { partsList } from "./lists.ts";
import { ownValue } from "./ownfields.ts";
import { ask, askWith, command, replace } from "./route.ts";

const decimals = z
  .int("The number of decimals is a whole number.")
  .min(0, "A unit has 0 to 6 decimals.")
  .max(6, "A unit has 0 to 6 decimals.");
const unitFields = {
  name,
  dimension: z.enum(DIMENSIONS, { error: `The dimension is one of: ${DIMENSIONS.join(", ")}.` }),
  factor: quantity.meta({ description: "How many of the dimension's smallest shipped unit one of it is" }),
  decimals,
  rec20: z
    .string()
    .trim()
    .regex(/^[A-Z0-9]{2,3}$/, "A Recommendation 20 code has two or three capital letters or digits.")
    .meta({ description: "UN/ECE Recommendation 20 common code" }),
};
export const unit = z
  .object({
    ...unitFields,
    code: z.string(),
    factor: figure,
    used: z.boolean().meta({ description: "Something is measured in it: its dimension and factor stay" }),
  })
  .meta({ id: "Unit" });
export type UnitAnswer = z.infer<typeof unit>;
export const newUnit = z.object({
  code: short("The unit").regex(/^\S{1,20}$/, "A unit's code has up to 20 characters without spaces."),
  ...unitFields,
});
export type NewUnit = z.infer<typeof newUnit>;

export const itemRow = itemBrief
  .extend({
    group: z.string(),
    drawnAt: drawnAt.meta({ description: "As its group says: whether it is handed out or deducted" }),
    hasList: z.boolean().meta({ description: "A parts list is in force, or its contents are written" }),
    onHand: figure,
    reserved: figure,
    free: figure.meta({ description: "Of a kit: whole sets that its contents allow" }),
    value: figure,
    unitCost: figure.nullable().meta({ description: "For one, rounded: only to be shown" }),
    currentCost: rate.nullable(),
    price: figure.nullable(),
    pricePer: z.string(),
    priceRate: rate.nullable(),
    lacks: z.array(z.enum(LACKS)),
  })
  .meta({ id: "ItemRow" });
export type ItemRow = z.infer<typeof itemRow>;

const days = (what: string) => wholeNumber(what, 9999).nullable();
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
  buildDays: days("The build days").meta({ description: "Calendar days that a build takes" }),
  shelfLife: days("The shelf life").meta({ description: "Days until a finished lot expires" }),
  lotPattern,
  warrantyMonths: days("The warranty"),
  maker: name.or(z.literal("")),
  makerNumber: short("The maker's number"),
  state: itemState,
  notCounted: z.boolean().meta({ description: "Costs and prints, is never stocked and never limits" }),
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
  notCounted: itemFields.notCounted.default(false),
  packs: itemFields.packs.default([]),
  notes: itemFields.notes.default(""),
});
export type NewItem = z.infer<typeof newItem>;

export const itemSupplier = z.object({
  supplier: z.string().min(1, "Choose a supplier."),
  theirCode: short("Their code"),
  price: cost.nullable(),
  pricePer: per,
  leadDays: days("The lead days"),
  minimum: quantityOrZero.nullable(),
  multiple: quantity.nullable(),
  web,
  preferred: z.boolean(),
});
export type ItemSupplier = z.infer<typeof itemSupplier>;

export const itemSheet = itemRow
  .extend({
    cost: figure.nullable().meta({ description: "Standard cost" }),
    costPer: z.string(),
    lastCost: figure.nullable().meta({ description: "For one unit at the last receipt" }),
    ownPrice: figure.nullable().meta({ description: "Its own price; a kit's may follow from its contents" }),
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
        price: figure.nullable(),
        minimum: figure.nullable(),
      }),
    ),
    own: z.array(ownValue),
    files: z.array(attachedFile),
    expired: figure,
    lying: z.array(
      z.object({
        store: z.string(),
        bin: z.string(),
        lot: z.string(),
        serial: z.string(),
        expiry: day.nullable(),
        expired: z.boolean(),
        quantity: figure,
        own: z.array(ownValue),
      }),
    ),
    reservedBy: z
      .array(z.object({ build: ref.nullable(), order: ref.nullable(), number: z.string(), quantity: figure }))
      .meta({ description: "Each either a build or a customer's order" }),
    list: partsList.nullable().meta({ description: "Its main list as it is in force today" }),
    kit: kit.nullable(),
  })
  .meta({ id: "ItemSheet" });
export type ItemSheet = z.infer<typeof itemSheet>;

export const SORTS = ["code", "name", "kind", "free", "onHand", "price"] as const;

export const group = z
  .object({
    id: ref,
    name: z.string(),
    unit: z.string().nullable(),
    tracking: tracking.nullable(),
    drawnAt: drawnAt.nullable(),
    store: z.string(),
    items: z.int(),
  })
  .meta({ id: "Group" });
export type Group = z.infer<typeof group>;
export const groupBody = z.object({
  name,
  unit: z.string().nullable(),
  tracking: tracking.nullable(),
  drawnAt: drawnAt.nullable(),
  store: z.string(),
});

const use = z.object({
  what: z.enum(["list", "substitute", "kit", "swap", "build", "purchase", "order"]),
  id: ref.meta({ description: "Of the product, kit, build, purchase order or order" }),
  code: z.string(),
  name: z.string(),
  detail: z.string().meta({ description: "Which list and revision, or the stage" }),
  quantity: figure,
  unit: z.string(),
});
export type Use = z.infer<typeof use>;

const one = { params: z.object({ id }) };

export const catalogRoutes = {
  units: ask("/api/units", { summary: "Units of measure", answer: z.object({ units: z.array(unit) }) }),
  newUnit: command("/api/units", { summary: "Make a unit", body: newUnit, answer: unit }),
  changeUnit: replace("/api/units/:code", {
    summary: "Change a unit; what is in use of it stays",
    params: z.object({ code: z.string() }),
    body: newUnit.omit({ code: true }),
    answer: unit,
  }),
  groups: ask("/api/groups", {
    summary: "Groups of items and the defaults they give",
    answer: z.object({ groups: z.array(group) }),
  }),
  newGroup: command("/api/groups", { summary: "Make a group", body: groupBody, answer: group }),
  changeGroup: replace("/api/groups/:id", {
    summary: "Change a group; items that are there stay as they are",
    ...one,
    body: groupBody,
    answer: group,
  }),
  removeGroup: command("/api/groups/:id/remove", {
    summary: "Remove a group; its items have none afterwards",
    ...one,
    answer: z.object({}),
  }),
  items: ask("/api/items", {
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
    answer: z.object({ items: z.array(itemRow), total: z.int(), next: z.string().nullable() }),
  }),
  item: ask("/api/items/:id", {
    summary: "One item, with its stock and its parts list or contents",
    ...one,
    answer: itemSheet,
  }),
  lookUp: askWith("/api/items/look-up", {
    summary: "Items by their codes or barcodes, in the order asked; null where there is none",
    body: z.object({ codes: z.array(z.string().max(200)).max(1000, "Up to 1000 codes at once.") }),
    answer: z.object({ items: z.array(itemRow.nullable()) }),
  }),
  newItem: command("/api/items", { summary: "Make an item", body: newItem, answer: itemRow }),
  copyItem: command("/api/items/:id/copy", {
    summary: "Make an item like another, with its suppliers and its parts list or contents",
    ...one,
    body: z.object({ code, name }),
    answer: itemRow,
  }),
  changeItem: replace("/api/items/:id", {
    summary: "Change an item; what its history depends on stays",
    ...one,
    body: itemChange,
    answer: itemRow,
  }),
  removeItem: command("/api/items/:id/remove", {
    summary: "Remove an item that was never used",
    ...one,
    answer: z.object({}),
  }),
  changeSuppliers: replace("/api/items/:id/suppliers", {
    summary: "Say who supplies an item, and how",
    ...one,
    body: z.object({ suppliers: z.array(itemSupplier).max(50, "An item has up to 50 suppliers.") }),
    answer: z.object({}),
  }),
  whereUsed: ask("/api/items/:id/where-used", {
    summary: "Every list, kit and open document with this item",
    ...one,
    answer: z.object({ uses: z.array(use) }),
  }),
};
