import { ITEM_KINDS, TRACKINGS } from "@yosegi/core";
import { z } from "zod";
import { bin, code, cost, day, figure, id, name, percent, price, quantity, ref } from "./fields.ts";
import { ask, command, replace } from "./route.ts";

export const itemKind = z.enum(ITEM_KINDS, { error: `The kind is one of: ${ITEM_KINDS.join(", ")}.` });
export const tracking = z.enum(TRACKINGS, { error: `Tracking is one of: ${TRACKINGS.join(", ")}.` });

export const unit = z
  .object({
    code: z.string(),
    name: z.string(),
    dimension: z.string(),
    factor: figure,
    decimals: z.int(),
    rec20: z.string().meta({ description: "UN/ECE Recommendation 20 common code" }),
  })
  .meta({ id: "Unit" });

/** What is told of an item wherever it is named. */
export const itemBrief = z.object({
  id: ref,
  code: z.string(),
  name: z.string(),
  kind: itemKind,
  tracking,
  unit: z.string(),
  decimals: z.int(),
});
export type ItemBrief = z.infer<typeof itemBrief>;

export const itemRow = itemBrief
  .extend({
    hasList: z.boolean(),
    onHand: figure,
    reserved: figure,
    free: figure,
    value: figure,
    unitCost: figure.nullable(),
    price: figure.nullable(),
  })
  .meta({ id: "ItemRow" });
export type ItemRow = z.infer<typeof itemRow>;

const itemFields = {
  name,
  kind: itemKind,
  unit: z.string().min(1, "The unit is missing."),
  tracking,
  cost: cost.nullable(),
  price: price.nullable(),
  store: z.string(),
  bin,
};
export const itemChange = z.object(itemFields);
export const newItem = z.object({ code, ...itemFields });
export type NewItem = z.infer<typeof newItem>;

export const listLine = z.object({
  line: ref,
  part: itemBrief.extend({ free: figure, unitCost: figure.nullable() }),
  quantity: figure,
  unit: z.string(),
  waste: figure,
  oncePerBuild: z.boolean(),
});

export const partsList = z
  .object({
    makes: figure,
    usual: figure,
    overhead: figure,
    lines: z.array(listLine),
    expected: z.object({
      materials: figure,
      work: figure,
      overhead: figure,
      total: figure,
      each: figure,
      unknown: z.array(z.string()),
    }),
  })
  .meta({ id: "PartsList" });
export type PartsListAnswer = z.infer<typeof partsList>;

export const listDraft = z.object({
  makes: quantity,
  usual: quantity,
  overhead: cost,
  lines: z
    .array(
      z.object({
        part: z.string().trim().min(1, "Choose a part."),
        quantity,
        unit: z.string().min(1, "The unit is missing."),
        waste: percent,
        oncePerBuild: z.boolean(),
      }),
    )
    .min(1, "A parts list has at least one part.")
    .max(500, "A parts list has up to 500 lines."),
});
export type ListDraftBody = z.infer<typeof listDraft>;

export const itemSheet = itemRow
  .extend({
    cost: figure.nullable().meta({ description: "Standard cost" }),
    store: z.string(),
    bin: z.string(),
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
      }),
    ),
    reservedBy: z.array(z.object({ build: ref, number: z.string(), quantity: figure })),
    list: partsList.nullable(),
  })
  .meta({ id: "ItemSheet" });
export type ItemSheet = z.infer<typeof itemSheet>;

export const catalogRoutes = {
  units: ask("/api/units", { summary: "Units of measure", answer: z.object({ units: z.array(unit) }) }),
  items: ask("/api/items", {
    summary: "Items, with what is on hand, reserved and free",
    query: z.object({
      search: z.string().max(200).default("").meta({ description: "Words that code or name must contain" }),
      kind: itemKind.optional(),
      limit: z.coerce.number().int().min(1).max(20_000).default(20_000),
    }),
    answer: z.object({ items: z.array(itemRow), total: z.int() }),
  }),
  item: ask("/api/items/:id", {
    summary: "One item, with its stock and its parts list",
    params: z.object({ id }),
    answer: itemSheet,
  }),
  newItem: command("/api/items", { summary: "Make an item", body: newItem, answer: itemRow }),
  changeItem: replace("/api/items/:id", {
    summary: "Change an item; what its history depends on stays",
    params: z.object({ id }),
    body: itemChange,
    answer: itemRow,
  }),
  saveList: replace("/api/items/:id/parts-list", {
    summary: "Write the parts list of a built item",
    params: z.object({ id }),
    body: listDraft,
    answer: partsList,
  }),
};
