import { itemBrief } from "./brief.ts";
import { coverQuestion } from "./cover.ts";
import { costFigure, figure } from "./fields.ts";
import { job } from "./jobs.ts";
import { askWith } from "./route.ts";
import { z } from "./zod.ts";

export const MIX_BASES = ["margin", "priority"] as const;

export const mixBody = z.object({
  question: coverQuestion,
  by: z.enum(MIX_BASES),
  job,
});

export const mixAnswer = z
  .object({
    mix: z.array(
      z.object({
        item: itemBrief,
        wanted: figure,
        quantity: figure,
        byHand: figure,
        brings: costFigure.nullable(),
      }),
    ),
    value: costFigure,
    byHand: costFigure.meta({ description: "What the order by value alone would bring" }),
    binding: z.array(z.object({ item: itemBrief, brings: costFigure })),
  })
  .meta({ id: "Mix" });

export type MixAnswer = z.infer<typeof mixAnswer>;

export const mixRoutes = {
  mix: askWith("/api/cover/mix", {
    permission: "look",
    summary: "Which quantities to build now so that most is achieved with the stock there is",
    body: mixBody,
    answer: mixAnswer,
  }),
};
