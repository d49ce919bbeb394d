import { z } from "zod";
import { itemBrief } from "./brief.ts";
import { figure, id, quantity, ref } from "./fields.ts";
import { ask } from "./route.ts";

export const partCheck = itemBrief
  .extend({
    bin: z.string().meta({ description: "Home bin" }),
    need: figure,
    stocked: z.boolean().meta({ description: "false: not counted, so it has a need and no stock" }),
    onHand: figure,
    expired: figure,
    reserved: figure,
    reservedBy: z.array(z.object({ build: ref, number: z.string(), quantity: figure })),
    free: figure,
    short: figure,
    reach: figure
      .nullable()
      .meta({ description: "Units of the product that the free stock allows; null: no limit" }),
    limiting: z.boolean(),
    canBeBuilt: z.boolean().meta({ description: "The part has a parts list of its own" }),
  })
  .meta({ id: "PartCheck" });
export type PartCheckAnswer = z.infer<typeof partCheck>;

export const coverAnswer = z
  .object({
    product: itemBrief,
    wanted: figure,
    started: figure.meta({ description: "Units to start so that as many come out good" }),
    makesNow: figure.nullable().meta({ description: "null: nothing limits" }),
    limiting: z.array(ref),
    finishedFree: figure.meta({ description: "Finished units that are free; shown beside, not deducted" }),
    parts: z.array(partCheck),
    work: z.array(z.object({ name: z.string(), quantity: figure, unit: z.string() })),
    cost: z.object({ total: figure, each: figure, unknown: z.array(z.string()) }),
  })
  .meta({ id: "Cover" });
export type CoverAnswer = z.infer<typeof coverAnswer>;

export const coverRoutes = {
  cover: ask("/api/cover/:id", {
    summary: "Whether free stock suffices for so many of a product, and which part stops it",
    params: z.object({ id }),
    query: z.object({ quantity }),
    answer: coverAnswer,
  }),
};
