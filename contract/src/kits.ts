import { PRICE_RULES, SWAPS } from "@yosegi/core";
import type { Parsed } from "./amounts.ts";
import { costRate, itemBrief, priceRate } from "./brief.ts";
import { costFigure, figure, id, price, priceFigure, quantity, ref, share, version } from "./fields.ts";
import { replace } from "./route.ts";
import { z } from "./zod.ts";

export const priceRule = z.enum(PRICE_RULES, {
  error: `The price rule is one of: ${PRICE_RULES.join(", ")}.`,
});

export const swap = z.enum(SWAPS, { error: `Swaps are one of: ${SWAPS.join(", ")}.` });

const kitTerms = z.object({ contentsShown: z.boolean(), mayBeAddedTo: z.boolean(), priceRule });

const contentRules = z.object({ swap, quantityMayChange: z.boolean(), mayBeLeftOut: z.boolean() });

const content = contentRules.extend({
  line: ref,
  item: itemBrief.extend({
    free: figure,
    unitCost: costFigure.nullable(),
    currentCost: costRate.nullable(),
    price: priceFigure.nullable(),
    priceRate: priceRate.nullable(),
  }),
  quantity: figure,
  swaps: z.array(z.object({ code: z.string(), name: z.string(), free: figure, unit: z.string() })),
  sets: figure.nullable().meta({ description: "Sets that its free stock allows; null: no limit" }),
  limiting: z.boolean(),
  share: priceFigure.nullable().meta({ description: "What of the kit's price falls on it" }),
});

export const kit = kitTerms
  .extend({
    version,
    discount: figure,
    contents: z.array(content),
    sets: figure
      .nullable()
      .meta({ description: "Sets that can be sold; null: no limit; 0 while it has no contents" }),
  })
  .meta({ id: "Kit" });

export type Kit = z.infer<typeof kit>;

export const kitBody = kitTerms.extend({
  discount: share,
  price: price.nullable(),
  contents: z
    .array(
      contentRules.extend({
        item: z.string().trim().min(1, "Choose an item."),
        quantity,
        swaps: z.array(z.string()).max(50, "Up to 50 items may be named."),
      }),
    )
    .min(1, "A kit has at least one content.")
    .max(200, "A kit has up to 200 contents."),
});

export type KitBody = z.infer<typeof kitBody>;
/** The same with its amounts parsed. */
export type KitInput = Parsed<typeof kitBody>;

export const kitRoutes = {
  saveKit: replace("/api/items/:id/kit", {
    permission: "kits",
    summary: "Write the contents of a kit and how it is sold",
    params: z.object({ id }),
    body: kitBody,
    answer: kit,
  }),
};
