import { type Decimal, HUNDRED, ONE, rateOf, sum, valueAt } from "../amounts/index.ts";

/** What lines of one tax rate come to. */
export interface TaxShare {
  /** Percent. */
  rate: Decimal;
  net: Decimal;
  tax: Decimal;
}

/** The tax on net line totals, the highest rate first; rounded once for each rate to so many decimals (docs/rules.md § 12). */
export function taxesOf(
  lines: readonly { total: Decimal; taxRate: Decimal }[],
  decimals: number,
): TaxShare[] {
  const rates = new Map(lines.map(({ taxRate }) => [taxRate.toFixed(), taxRate]));
  return [...rates.values()]
    .sort((a, b) => b.cmp(a))
    .map((rate) => {
      const net = sum(lines.flatMap(({ total, taxRate }) => (taxRate.eq(rate) ? total : [])));
      return { rate, net, tax: valueAt(net.times(rate), rateOf(ONE, HUNDRED), decimals) };
    });
}
