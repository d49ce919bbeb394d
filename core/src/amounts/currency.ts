const known = new Map<string, number>();

/** How many decimals a currency has of its own (ISO 4217): EUR two, JPY none, KWD three. */
export function currencyDecimals(currency: string): number {
  const found = known.get(currency);
  if (found !== undefined) return found;
  const { maximumFractionDigits = 2 } = new Intl.NumberFormat("en", {
    style: "currency",
    currency,
  }).resolvedOptions();
  known.set(currency, maximumFractionDigits);
  return maximumFractionDigits;
}
