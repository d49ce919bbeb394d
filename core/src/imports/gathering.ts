import type { Decimal } from "../amounts/index.ts";
import { type Problem, reporter } from "../problems.ts";

export function gather<Row>(rows: readonly Row[], keyOf: (row: Row) => string): Map<string, Row[]> {
  const groups = new Map<string, Row[]>();
  for (const row of rows) {
    const group = groups.get(keyOf(row));
    if (group) group.push(row);
    else groups.set(keyOf(row), [row]);
  }
  return groups;
}

/** What concerns the whole may be told on every row, but not in two ways. */
export function checkSame<Field extends string>(
  first: { row: number } & { [Name in Field]: Decimal | string | boolean | null },
  other: { row: number } & { [Name in Field]: Decimal | string | boolean | null },
  fields: readonly Field[],
  problems: Problem[],
): void {
  for (const field of fields) {
    if (other[field] === null) continue;
    const [here, there] = [text(other[field]), text(first[field])];
    if (here !== there)
      reporter(other.row, problems)(field, here, "list-differs", { row: first.row, value: there });
  }
}

function text(value: Decimal | string | boolean | null): string {
  if (value === null) return "";
  if (typeof value === "boolean") return value ? "yes" : "no";
  return typeof value === "string" ? value : value.toFixed();
}
