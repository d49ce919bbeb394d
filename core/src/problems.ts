import { codeKey } from "./keys.ts";

export type Report = (field: string, value: string, code: ProblemCode, params?: Problem["params"]) => void;

/** Collects the problems of one row; the row is good while there are none. */
export function reporter(row: number, problems: Problem[]): Report {
  return (field, value, code, params = {}) => problems.push({ row, field, value, code, params });
}

/** Rows without a problem, and the problems of the others. */
export interface Checked<Row> {
  good: Row[];
  problems: Problem[];
}

/** Checks each row by itself, and that no two rows have the same key. */
export function checkEach<Row extends { row: number }>(
  rows: readonly Row[],
  field: string,
  textOf: (row: Row) => string,
  check: (row: Row, report: Report) => void,
): Checked<Row> {
  const problems: Problem[] = [];
  const seen = new Map<string, number>();
  const good = rows.filter((row) => {
    const before = problems.length;
    const report = reporter(row.row, problems);
    const key = codeKey(textOf(row));
    const earlier = seen.get(key);
    if (earlier !== undefined) report(field, textOf(row), "code-repeated", { row: earlier });
    else seen.set(key, row.row);
    check(row, report);
    return problems.length === before;
  });
  return { good, problems };
}

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
  "content-fixed",
  "content-needed",
  "content-not-added",
  "content-not-listed",
  "content-quantity-fixed",
  "content-unknown",
  "cost-needed",
  "customer-or-group",
  "customer-unknown",
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
  "not-stock-tracked-tracking",
  "not-kit",
  "not-stocked",
  "pack-repeated",
  "part-is-kit",
  "part-is-product",
  "parts-circle",
  "person-for-work",
  "person-unknown",
  "preferred-twice",
  "price-follows",
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
