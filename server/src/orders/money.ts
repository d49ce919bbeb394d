import type { OrderPreview } from "@yosegi/contract";
import { type Decimal, sum, taxesOf } from "@yosegi/core";
import type { Reading } from "../db/index.ts";

/** What a line comes to without tax, null where it has no price, and at which rate it is taxed. */
export interface TaxedLine {
  total: Decimal | null;
  taxRate: Decimal;
}

const taxed = (ctx: Reading, lines: readonly TaxedLine[]) =>
  taxesOf(
    lines.flatMap(({ total, taxRate }) => (total === null ? [] : [{ total, taxRate }])),
    ctx.currencyDecimals,
  );

/** What lines come to with tax; those without a price count nothing. */
export const withTax = (ctx: Reading, lines: readonly TaxedLine[]): Decimal =>
  sum(taxed(ctx, lines).flatMap(({ net, tax }) => [net, tax]));

/** The tax on lines, and what they come to with it; a line without a price leaves the whole unknown. */
export function taxAnswer(ctx: Reading, lines: readonly TaxedLine[]): Pick<OrderPreview, "taxes" | "gross"> {
  const money = (amount: Decimal) => amount.toFixed(ctx.currencyDecimals);
  return {
    taxes: taxed(ctx, lines).map(({ rate, net, tax }) => ({
      rate: rate.toFixed(),
      net: money(net),
      tax: money(tax),
    })),
    gross: lines.some(({ total }) => total === null) ? null : money(withTax(ctx, lines)),
  };
}
