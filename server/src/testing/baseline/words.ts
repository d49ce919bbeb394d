import type { Answered } from "./questions.ts";

/** Names in answers that are others since, before and now. */
const NAMES: Readonly<Record<string, string>> = {
  notCounted: "notStockTracked",
  wasted: "scrapped",
  outside: "subcontractor",
  standing: "recurring",
  own: "custom",
  lying: "stockByBin",
};
const VALUES: Readonly<Record<string, string>> = {
  "running out": "phasing out",
  made: "created",
  taken: "created",
};
const ADDRESSES = [
  ["/api/repeats", "/api/recurring"],
  ["/api/own-fields", "/api/custom-fields"],
] as const;

/** What was answered before, in the words of today. */
export function inTodaysWords(answers: Readonly<Record<string, Answered>>): Record<string, Answered> {
  return Object.fromEntries(
    Object.entries(answers).map(([url, answer]) => [
      ADDRESSES.reduce((text, [before, now]) => text.replace(before, now), url),
      renamed(answer) as Answered,
    ]),
  );
}

function renamed(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(renamed);
  if (typeof value === "string") return VALUES[value] ?? value;
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([name, inner]) => [nameNow(name, inner), renamed(inner)]),
  );
}

/** Stock targets were rules to keep so many. */
const nameNow = (name: string, inner: unknown): string =>
  name === "keep" ? (Array.isArray(inner) ? "targets" : "target") : (NAMES[name] ?? name);
