import { NEXT_STEPS } from "@yosegi/core";
import { day, ref } from "./fields.ts";
import { ask } from "./route.ts";
import { z } from "./zod.ts";

export const todayTask = z
  .object({
    kind: z.enum(["build", "order", "purchase", "count", "return", "rework"]),
    id: ref,
    number: z.string(),
    name: z.string().meta({ description: "The product, the customer or the supplier" }),
    step: z.enum(NEXT_STEPS),
    day: day.nullable().meta({ description: "By when the step is needed" }),
    late: z.boolean(),
    why: z.string().meta({ description: "What it waits for, or why it is late; empty: nothing" }),
    mine: z.boolean().meta({ description: "It is assigned to who asks" }),
    assigned: z.string(),
    round: ref.nullable().meta({ description: "The pick round that it is in" }),
  })
  .meta({ id: "TodayTask" });
export type TodayTask = z.infer<typeof todayTask>;

export const todayRoutes = {
  today: ask("/api/today", {
    permission: "look",
    summary: "What to do next across everything, by when it is needed, and the coming ten days",
    answer: z.object({
      tasks: z.array(todayTask).meta({ description: "The first hundred" }),
      total: z.int(),
      days: z.array(
        z.object({
          day,
          builds: z.int().meta({ description: "Builds that are due" }),
          receipts: z.int().meta({ description: "Purchase orders of which something is expected" }),
          shipments: z.int().meta({ description: "Orders that are due" }),
        }),
      ),
    }),
  }),
};
