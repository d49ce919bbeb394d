import { itemBrief, personBrief } from "./brief.ts";
import { byId, chosen, day, figure, note, quantity, ref, version } from "./fields.ts";
import { ask, command, replace } from "./route.ts";
import { z } from "./zod.ts";

export const stockTargetRow = z
  .object({
    version,
    product: itemBrief,
    target: figure,
    batch: figure.meta({ description: "Build at least so many at once" }),
    free: figure,
    coming: figure.meta({ description: "What can still come good of builds queued or on the bench" }),
    planned: figure.meta({ description: "What stands on drafts" }),
    toBuild: figure.meta({ description: "What to build now; 0 where enough is there" }),
  })
  .meta({ id: "StockTargetRow" });

export type StockTargetRow = z.infer<typeof stockTargetRow>;

export const recurringBuild = z
  .object({
    id: ref,
    version,
    product: itemBrief,
    quantity: figure,
    weekdays: z.array(z.int()).meta({ description: "1 Monday to 7 Sunday" }),
    starts: day,
    assigned: personBrief.nullable(),
    note: z.string(),
    lastDay: day.nullable().meta({ description: "The last day for which it made a draft" }),
    next: day.nullable(),
    problem: z.string().nullable().meta({ description: "Why it cannot make its draft; null: it can" }),
  })
  .meta({ id: "RecurringBuild" });

export type RecurringBuild = z.infer<typeof recurringBuild>;

export const recurringBody = z.object({
  product: chosen("a product"),
  quantity,
  weekdays: z
    .array(z.int().min(1, "A weekday is 1 to 7.").max(7, "A weekday is 1 to 7."))
    .min(1, "On which days?")
    .max(7),
  starts: day,
  assigned: ref.nullable().default(null),
  note: note.default(""),
});

const recurring = z.object({ targets: z.array(stockTargetRow), recurring: z.array(recurringBuild) });

export const recurringRoutes = {
  recurring: ask("/api/recurring", {
    permission: "look",
    summary: "What is kept in stock, with what to build now, and what is built on fixed days",
    answer: recurring,
  }),
  setStockTarget: replace("/api/stock-targets", {
    permission: "plan",
    summary: "Keep at least so many of a product, and build at least so many at once",
    body: z.object({ product: chosen("a product"), target: quantity, batch: quantity }),
    answer: recurring,
  }),
  removeStockTarget: command("/api/stock-targets/:id/remove", {
    permission: "plan",
    summary: "Keep no stock of a product any more",
    ...byId,
    answer: recurring,
  }),
  newRecurring: command("/api/recurring-builds", {
    permission: "plan",
    summary: "Build so many on these weekdays; each makes its draft by itself on its day",
    body: recurringBody,
    answer: recurring,
  }),
  changeRecurring: replace("/api/recurring-builds/:id", {
    permission: "plan",
    summary: "Change a recurring build",
    ...byId,
    body: recurringBody,
    answer: recurring,
  }),
  removeRecurring: command("/api/recurring-builds/:id/remove", {
    permission: "plan",
    summary: "Stop a recurring build; the drafts it made stay",
    ...byId,
    answer: recurring,
  }),
};
