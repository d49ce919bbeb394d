/**
 * What can be wrong with a row or a form, beyond what its own shape tells. The words for each code are in the
 * error catalogue of the contract, which the compiler holds to this list.
 */
export const PROBLEM_CODES = [
  "archived",
  "barcode-taken",
  "bin-without-store",
  "code-repeated",
  "code-taken",
  "cost-needed",
  "decimals",
  "expiry-differs",
  "expiry-without-lot",
  "has-stock",
  "in-use",
  "item-unknown",
  "kit-no-tracking",
  "kit-not-bought",
  "kit-unit",
  "list-differs",
  "list-held",
  "lot-needed",
  "lot-not-tracked",
  "not-built",
  "not-counted-tracking",
  "not-kit",
  "not-stocked",
  "pack-repeated",
  "part-is-kit",
  "part-is-product",
  "parts-circle",
  "person-for-work",
  "person-unknown",
  "preferred-twice",
  "price-unit",
  "serial-needed",
  "serial-not-tracked",
  "serial-one",
  "serial-taken",
  "serial-unit",
  "service-no-tracking",
  "shares-sum",
  "store-unknown",
  "substitute-same",
  "supplier-unknown",
  "swap-unit",
  "swaps-needed",
  "swaps-not-listed",
  "unit-dimension",
  "unit-unknown",
] as const;
export type ProblemCode = (typeof PROBLEM_CODES)[number];

/** One thing wrong: where (row and field), which value, and what the message needs to say so. */
export interface Problem {
  row: number;
  field: string;
  value: string;
  code: ProblemCode;
  params: Record<string, string | number>;
}
