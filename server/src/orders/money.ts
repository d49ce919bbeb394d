import type { OrderPreview } from "@yosegi/contract";
import { type Decimal, sum, sumIfKnown, taxesOf } from "@yosegi/core";
import type { Reading } from "../db/index.ts";

/** The tax on lines, and what they come to with it; a line without a price leaves the whole unknown. */
export function taxAnswer(
  ctx: Reading,
  lines: readonly { total: Decimal | null; taxRate: Decimal }[],
): Pick<OrderPreview, "taxes" | "gross"> {
  const decimals = ctx.currencyDecimals;
  const taxes = taxesOf(
    lines.flatMap(({ total, taxRate }) => (total === null ? [] : [{ total, taxRate }])),
    decimals,
  );
  const net = sumIfKnown(lines.map(({ total }) => total));
  return {
    taxes: taxes.map(({ rate, net, tax }) => ({
      rate: rate.toFixed(),
      net: net.toFixed(decimals),
      tax: tax.toFixed(decimals),
    })),
    gross: net?.plus(sum(taxes.map(({ tax }) => tax))).toFixed(decimals) ?? null,
  };
}
