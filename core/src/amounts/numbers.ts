/** How a person's language writes numbers. */
export interface NumberMarks {
  decimal: string;
  group: string;
}

/** The marks of a locale, read off the platform's own formatter. */
export function numberMarks(locale: string): NumberMarks {
  const parts = new Intl.NumberFormat(locale, { useGrouping: true }).formatToParts(-12345678.9);
  const mark = (type: string, fallback: string) => parts.find((p) => p.type === type)?.value ?? fallback;
  return { decimal: mark("decimal", "."), group: mark("group", ",") };
}

const PLAIN = /^[+-]?(\d+(\.\d*)?|\.\d+)$/;

/**
 * Reads a number as a person types it, into plain decimal text ("1.234,5" in German → "1234.5"), exactly.
 * A mark that stands where it cannot be one (1,2345 with the group mark ",") is not guessed at: null.
 */
export function parseNumber(text: string, marks: NumberMarks): string | null {
  const typed = text
    .trim()
    .replace(/[\u2212\u2013]/g, "-")
    .replace(/[\s\u00a0\u202f]/g, "");
  if (typed === "") return null;
  const [whole = "", ...fractions] = typed.split(marks.decimal);
  if (fractions.length > 1) return null;
  const fraction = fractions[0];
  if (fraction !== undefined && /\D/.test(fraction)) return null;
  const groups = /\s/.test(marks.group) ? [whole] : whole.split(marks.group);
  // No number that is grouped begins with 0: "0,012" was meant as a decimal.
  if (groups.length > 1 && !groups.every((g, i) => (i === 0 ? /^[+-]?[1-9]\d{0,2}$/ : /^\d{3}$/).test(g)))
    return null;
  const plain = groups.join("") + (fraction === undefined ? "" : `.${fraction}`);
  if (!PLAIN.test(plain)) return null;
  const [, sign = "", digits = ""] = /^([+-]?)(.*)$/.exec(plain) ?? [];
  const tidy = digits.replace(/^\./, "0.").replace(/\.$/, "");
  return sign === "-" ? `-${tidy}` : tidy;
}
