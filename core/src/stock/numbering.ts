import { addDays, type Day } from "../amounts/index.ts";

/** Numbers counted up, and those that were passed over because they are used. */
export interface Run {
  serials: string[];
  skipped: string[];
}

/**
 * A run of serial numbers from a first one (docs/rules.md § 8): counts up the last group of digits and keeps its width,
 * skipping those for which `used` is true. Null where the first has no digits to count.
 */
export function serialRun(first: string, count: number, used: (serial: string) => boolean): Run | null {
  const parts = /^(.*?)(\d+)(\D*)$/s.exec(first);
  if (!parts) return null;
  const [, before = "", digits = "", after = ""] = parts;
  const run: Run = { serials: [], skipped: [] };
  for (let number = BigInt(digits); run.serials.length < count; number++) {
    const serial = `${before}${String(number).padStart(digits.length, "0")}${after}`;
    (used(serial) ? run.skipped : run.serials).push(serial);
  }
  return run;
}

/** The number after a serial number; null where it has no digits to count. */
export function serialAfter(serial: string): string | null {
  return serialRun(serial, 2, () => false)?.serials[1] ?? null;
}

/** What is wrong with one of several serial numbers that are given together. */
export type SerialFault = "missing" | "repeated" | "used";

/** The fault of each number, by its place; null where it is right. The first of a repeated number is right. */
export function serialFaults(
  given: readonly string[],
  used: (serial: string) => boolean,
): (SerialFault | null)[] {
  const seen = new Set<string>();
  return given.map((serial) => {
    if (serial === "") return "missing";
    if (seen.has(serial)) return "repeated";
    seen.add(serial);
    return used(serial) ? "used" : null;
  });
}

/**
 * Gives each number that is wrong the next free one: counted up from the last right one before it, or from the first
 * that has digits. What is right stays. What cannot be counted stays as it is.
 */
export function renumber(given: readonly string[], used: (serial: string) => boolean): string[] {
  const faults = serialFaults(given, used);
  const right = new Set(given.filter((_, i) => faults[i] === null));
  const taken = (serial: string) => right.has(serial) || used(serial);
  let last =
    given.find((serial, i) => faults[i] === null && /\d/.test(serial)) ?? given.find((s) => /\d/.test(s));
  return given.map((serial, i) => {
    if (faults[i] === null) {
      last = /\d/.test(serial) ? serial : last;
      return serial;
    }
    const [next] = last === undefined ? [] : (serialRun(last, 1, taken)?.serials ?? []);
    if (next === undefined) return serial;
    right.add(next);
    last = next;
    return next;
  });
}

/** What a lot pattern may name, in braces. */
export const LOT_PATTERN_WORDS = ["year", "yy", "month", "day", "number"] as const;
export const LOT_PATTERN = "{yy}{month}{day}-{number}";

/** Whether a text in braces is one of the words; text without braces is taken as it stands. */
export function lotPatternFault(pattern: string): string | null {
  for (const [, word = ""] of pattern.matchAll(/\{([^}]*)\}/g))
    if (!(LOT_PATTERN_WORDS as readonly string[]).includes(word)) return word;
  return null;
}

/**
 * A lot number from its pattern: the day's parts filled in, and a number counted up from 1 to the first that is not
 * used. A pattern without a number gives the same lot again: more of it is added to that lot.
 */
export function lotNumber(pattern: string, day: Day, used: (lot: string) => boolean): string {
  const [year = "", month = "", date = ""] = day.split("-");
  const filled = pattern
    .replaceAll("{year}", year)
    .replaceAll("{yy}", year.slice(2))
    .replaceAll("{month}", month)
    .replaceAll("{day}", date);
  if (!filled.includes("{number}")) return filled;
  for (let number = 1; ; number++) {
    const lot = filled.replaceAll("{number}", String(number));
    if (!used(lot)) return lot;
  }
}

/** The day on which a lot of this day expires; null where its item has no shelf life (docs/rules.md § 8). */
export const expiryOf = (day: Day, shelfLife: number | null): Day | null =>
  shelfLife === null ? null : addDays(day, shelfLife);
