import { quantityFromScaled } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { type Bytes, tableBytes } from "../http/index.ts";
import { briefs } from "../items/index.ts";
import { orderById, orderedLines } from "./rows.ts";

const COLUMNS = [
  { name: "item" },
  { name: "name" },
  { name: "quantity", figures: true },
  { name: "unit" },
  { name: "price", figures: true },
  { name: "price_per" },
  { name: "discount", figures: true },
];

/** The lines of an order as a spreadsheet, with the heads by which a list is read (core/src/messages). */
export async function exportOrder(ctx: Reading, id: number, format: "csv" | "xlsx"): Promise<Bytes> {
  const { number } = await orderById(ctx, id);
  const lines = await orderedLines(ctx, [id]);
  const brief = await briefs(
    ctx,
    lines.map((line) => line.item),
  );
  const rows = lines.map(({ item, quantity, price, pricePer, discount }) => {
    const { code, name, unit } = brief(item);
    const figure = price?.amount.toFixed(ctx.currencyDecimals) ?? "";
    return [code, name, quantityFromScaled(quantity).toFixed(), unit, figure, pricePer, discount.toFixed()];
  });
  return tableBytes(number, COLUMNS, rows, format);
}
