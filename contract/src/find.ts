import { ref } from "./fields.ts";
import { ask } from "./route.ts";
import { z } from "./zod.ts";

export const hit = z
  .object({
    kind: z.enum([
      "item",
      "build",
      "order",
      "purchase",
      "shipment",
      "return",
      "take-apart",
      "rework",
      "supplier-return",
      "round",
      "count",
      "lot",
      "serial",
      "bin",
      "document",
    ]),
    text: z.string(),
    detail: z.string(),
    id: ref.nullable().meta({
      description:
        "Of what its kind says; of the item of a lot, a serial number, or what is in a bin; null of a document of the stock ledger",
    }),
    exact: z.boolean().meta({ description: "The text is this thing's own code or number" }),
  })
  .meta({ id: "Hit" });
export type Hit = z.infer<typeof hit>;

export const findRoutes = {
  find: ask("/api/find", {
    permission: "look",
    summary: "What a scan or a typed text stands for: exact matches first, then names",
    query: z.object({ text: z.string().trim().min(1).max(200) }),
    answer: z.object({ hits: z.array(hit) }),
  }),
  waiting: ask("/api/waiting", {
    permission: "look",
    summary: "What waits at each entry of the rail",
    answer: z.object({
      builds: z.int(),
      overdue: z.int(),
      ready: z.int().meta({ description: "Queued or on the bench, with all parts there in their turn" }),
      blocked: z.int().meta({ description: "Queued or on the bench, waiting for parts" }),
      suggested: z.int().meta({ description: "Products that fall below what is kept of them" }),
      orders: z.int().meta({ description: "Open orders" }),
      ordersOverdue: z.int(),
      ordersMissing: z
        .int()
        .meta({ description: "Orders that miss something which is not being built either" }),
      picks: z.int().meta({ description: "Builds and orders that something is to be fetched for" }),
      rounds: z.int().meta({ description: "Pick rounds under way" }),
      buying: z
        .int()
        .meta({ description: "Drafts to be sent, and orders of which something is due or overdue" }),
    }),
  }),
};
