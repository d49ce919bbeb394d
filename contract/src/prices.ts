import { itemBrief } from "./brief.ts";
import { costFigure, figure, once, pageEnd, pageQuery, price, priceFigure, ref, share } from "./fields.ts";
import { ask, command } from "./route.ts";
import { z } from "./zod.ts";

export const priceRow = itemBrief.extend({
  unitCost: costFigure,
  price: priceFigure,
  margin: costFigure,
  percent: costFigure.nullable(),
  suggested: priceFigure.nullable().meta({ description: "The price with the margin wished for" }),
  ownPrice: z.boolean().meta({ description: "false: it follows from a kit's contents" }),
});

export type PriceRow = z.infer<typeof priceRow>;

export const priceRoutes = {
  prices: ask("/api/prices", {
    permission: "look",
    summary: "Products and kits whose margin is below a wish",
    query: z.object({
      ...pageQuery,
      wish: share.optional().meta({ description: "Percent; left out: as last wished" }),
    }),
    answer: z.object({ wish: figure, rows: z.array(priceRow), ...pageEnd }),
  }),
  reprice: command("/api/prices", {
    permission: "prices",
    summary: "Give several items their new prices, and remember the margin wished for",
    body: z.object({
      wish: share,
      prices: z
        .array(z.object({ item: ref, price }))
        .max(5000, "Up to 5000 prices at once.")
        .check(once((p) => p.item, "This item is named")),
    }),
    answer: z.object({ changed: z.int() }),
  }),
};
