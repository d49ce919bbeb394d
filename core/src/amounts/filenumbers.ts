import { type NumberMarks, parseNumber } from "./numbers.ts";

/** What parts the decimals in a file; its other mark, if any, groups thousands. */
export type DecimalMark = "." | ",";

export const marksOf = (decimal: DecimalMark): NumberMarks => ({
  decimal,
  group: decimal === "." ? "," : ".",
});

/** How a file writes its numbers; "unclear" where they do not say, or some say one thing and some the other. */
export type FileNumbers =
  | { decimal: DecimalMark }
  | { decimal: "unclear"; example: string }
  /** No number has a mark that could be read in two ways. */
  | { decimal: null };

/**
 * How a file writes its numbers, for a file has one convention. "1.250,5" and "0,012" can only be read in one way;
 * "2.000" can be two or two thousand.
 */
export function fileNumbers(cells: Iterable<string>): FileNumbers {
  const only = { ".": "", ",": "" };
  let either = "";
  for (const cell of cells) {
    if (!/[.,]/.test(cell)) continue;
    const byPoint = parseNumber(cell, marksOf("."));
    const byComma = parseNumber(cell, marksOf(","));
    if (byPoint !== null && byComma !== null) either ||= cell;
    else if (byPoint !== null) only["."] ||= cell;
    else if (byComma !== null) only[","] ||= cell;
  }
  if (only["."] && only[","]) return { decimal: "unclear", example: only[","] };
  if (only["."] || only[","]) return { decimal: only["."] ? "." : "," };
  return either ? { decimal: "unclear", example: either } : { decimal: null };
}
