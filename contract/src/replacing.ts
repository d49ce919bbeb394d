import { itemBrief } from "./brief.ts";
import { byId, costFigure, figure, moment, once, quantity, ref } from "./fields.ts";
import { ask, askWith, command } from "./route.ts";
import { z } from "./zod.ts";

const replacing = {
  part: ref,
  successor: ref,
  per: quantity.meta({ description: "So many of the successor" }),
  of: quantity.meta({ description: "… for so many of the part, both in their stock units" }),
};

export const replacementPreview = z.object({
  lists: z.array(
    z.object({
      list: ref,
      product: itemBrief,
      name: z.string(),
      before: z.array(z.string()).meta({ description: "The lines concerned, in words" }),
      after: z.array(z.string()),
      costBefore: costFigure,
      costAfter: costFigure,
      problem: z.string().nullable().meta({ description: "Why it cannot be replaced here" }),
      warning: z.string().nullable(),
    }),
  ),
  kits: z.array(
    z.object({
      kit: itemBrief,
      before: z.array(z.string()),
      after: z.array(z.string()),
      problem: z.string().nullable(),
    }),
  ),
});

export type ReplacementPreview = z.infer<typeof replacementPreview>;

export const replacementRow = z.object({
  id: ref,
  part: z.string(),
  successor: z.string(),
  per: figure,
  of: figure,
  person: z.string(),
  moment,
  lists: z.int(),
  kits: z.int(),
  undone: z.object({ person: z.string(), moment }).nullable(),
  blocked: z.string().nullable().meta({ description: "Why it cannot be undone any more" }),
});

export type ReplacementRow = z.infer<typeof replacementRow>;

export const replacingRoutes = {
  previewReplacement: askWith("/api/replacements/preview", {
    permission: "look",
    summary: "What replacing a part everywhere would change; writes nothing",
    body: z.object(replacing),
    answer: replacementPreview,
  }),
  replacements: ask("/api/replacements", {
    permission: "look",
    summary: "Parts that were replaced everywhere, latest first",
    answer: z.object({ replacements: z.array(replacementRow) }),
  }),
  replacePart: command("/api/replacements", {
    permission: "lists",
    summary: "Replace a part in these lists and kits, each list in a new revision",
    body: z.object({
      ...replacing,
      lists: z.array(ref).check(once((id) => id, "This list is named")),
      kits: z.array(ref).check(once((id) => id, "This kit is named")),
    }),
    answer: replacementRow,
  }),
  undoReplacement: command("/api/replacements/:id/undo", {
    permission: "lists",
    summary: "Take a replacement back while nothing was built from it",
    ...byId,
    answer: replacementRow,
  }),
};
