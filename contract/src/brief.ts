import { DRAWN_AT, decimal, ITEM_KINDS, ITEM_STATES, type Rate, rateOf, TRACKINGS } from "@yosegi/core";
import { figure, packName, quantity, ref } from "./fields.ts";
import { marked } from "./marks.ts";
import { z } from "./zod.ts";

export const itemKind = z.enum(ITEM_KINDS, { error: `The kind is one of: ${ITEM_KINDS.join(", ")}.` });
export const tracking = z.enum(TRACKINGS, { error: `Tracking is one of: ${TRACKINGS.join(", ")}.` });
export const itemState = z.enum(ITEM_STATES, { error: `The state is one of: ${ITEM_STATES.join(", ")}.` });
export const drawnAt = z.enum(DRAWN_AT, { error: `Drawn at is one of: ${DRAWN_AT.join(", ")}.` });

export const pack = z.object({
  name: packName,
  quantity,
});

/** Money for so many of the stock unit, unrounded: what figures are calculated with. */
export const rate = z
  .object({ amount: figure, per: figure })
  .meta({ id: "Rate", description: "So much money for so many of the stock unit" });

/** A rate of an answer, to be calculated with. */
export const rateFrom = (from: z.infer<typeof rate> | null): Rate | null =>
  from && rateOf(decimal(from.amount), decimal(from.per));

/** The same of what something costs us, and of what it is sold at. */
export const costRate = marked(rate, "cost");
export const priceRate = marked(rate, "price");

/** What is told of an item wherever it is named. */
export const itemBrief = z.object({
  id: ref,
  code: z.string(),
  name: z.string(),
  kind: itemKind,
  tracking,
  unit: z.string(),
  decimals: z.int(),
  state: itemState,
  notStockTracked: z.boolean(),
  packs: z.array(pack).meta({ description: "By whose names a quantity may be told, such as a box of 200" }),
  thumbnail: ref.nullable().meta({ description: "Id of its picture's file" }),
});
export type ItemBrief = z.infer<typeof itemBrief>;

/** A document by its number, wherever it is named. */
export const documentBrief = z.object({ id: ref, number: z.string() });

/** What is told of a supplier or customer wherever it is named. */
export const firmBrief = z.object({ id: ref, code: z.string(), name: z.string() });

/** A person wherever they are named. */
export const personBrief = z.object({ id: ref, name: z.string() });
