import { DIMENSIONS } from "@yosegi/core";
import type { Parsed } from "./amounts.ts";
import { drawnAt, tracking } from "./brief.ts";
import {
  byId,
  cost,
  figure,
  name,
  per,
  quantity,
  quantityOrZero,
  ref,
  short,
  web,
  wholeOrNull,
} from "./fields.ts";
import { ask, command, replace } from "./route.ts";
import { z } from "./zod.ts";

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

/** The same with its amounts parsed. */
export type UnitInput = Parsed<typeof newUnit>;

export const itemSupplier = z.object({
  supplier: z.string().min(1, "Choose a supplier."),
  theirCode: short("Their code"),
  price: cost.nullable(),
  pricePer: per,
  leadDays: wholeOrNull("The lead days"),
  minimum: quantityOrZero.nullable(),
  multiple: quantity.nullable(),
  web,
  preferred: z.boolean(),
});

export type ItemSupplier = z.infer<typeof itemSupplier>;
/** The same with its amounts parsed. */
export type SupplierInput = Parsed<typeof itemSupplier>;

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

export const itemRoutes = {
  units: ask("/api/units", {
    permission: "look",
    summary: "Units of measure",
    answer: z.object({ units: z.array(unit) }),
  }),
  newUnit: command("/api/units", {
    permission: "items",
    summary: "Make a unit",
    body: newUnit,
    answer: unit,
  }),
  changeUnit: replace("/api/units/:code", {
    permission: "items",
    summary: "Change a unit; what is in use of it stays",
    params: z.object({ code: z.string() }),
    body: newUnit.omit({ code: true }),
    answer: unit,
  }),
  groups: ask("/api/groups", {
    permission: "look",
    summary: "Groups of items and the defaults they give",
    answer: z.object({ groups: z.array(group) }),
  }),
  newGroup: command("/api/groups", {
    permission: "items",
    summary: "Make a group",
    body: groupBody,
    answer: group,
  }),
  changeGroup: replace("/api/groups/:id", {
    permission: "items",
    summary: "Change a group; items that are there stay as they are",
    ...byId,
    body: groupBody,
    answer: group,
  }),
  removeGroup: command("/api/groups/:id/remove", {
    permission: "items",
    summary: "Remove a group; its items have none afterwards",
    ...byId,
    answer: z.object({}),
  }),
  changeSuppliers: replace("/api/items/:id/suppliers", {
    permission: "items",
    summary: "Say who supplies an item, and how",
    ...byId,
    body: z.object({ suppliers: z.array(itemSupplier).max(50, "An item has up to 50 suppliers.") }),
    answer: z.object({}),
  }),
};
