import type { Answered } from "./questions.ts";

/** A figure that is answered otherwise than before. */
export interface Difference {
  url: string;
  /** Where in the answer, such as "demands.0.finish". */
  at: string;
  before: unknown;
  after: unknown;
}

/** Where two sets of answers differ, leaf by leaf. */
export function differencesOf(
  before: Readonly<Record<string, Answered>>,
  after: Readonly<Record<string, Answered>>,
): Difference[] {
  const urls = new Set([...Object.keys(before), ...Object.keys(after)]);
  return [...urls].flatMap((url) =>
    compared(before[url], after[url], []).map((difference) => ({ url, ...difference })),
  );
}

function compared(before: unknown, after: unknown, path: readonly string[]): Omit<Difference, "url">[] {
  if (Object.is(before, after)) return [];
  if (isNested(before) && isNested(after) && Array.isArray(before) === Array.isArray(after)) {
    const keys = new Set([...Object.keys(before), ...Object.keys(after)]);
    return [...keys].flatMap((key) => compared(before[key], after[key], [...path, key]));
  }
  return [{ at: path.join("."), before, after }];
}

const isNested = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null;
