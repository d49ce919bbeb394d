import type { ReworkRow, ReworkSheet, ReworkUnit } from "@yosegi/contract";
import { type ReworkOutcome, STEP_STATES } from "@yosegi/core";
import type { Format } from "../ui/index.ts";

export const OUTCOMES: readonly { value: ReworkOutcome; label: string }[] = [
  { value: "good", label: "Good" },
  { value: "scrap", label: "Scrap" },
  { value: "parts", label: "Scrap, keep good parts" },
];

export const OUTCOME_WORDS: Record<ReworkOutcome, string> = {
  good: "good",
  scrap: "scrapped",
  parts: "scrapped for parts",
};

export const STEP_CHOICES = STEP_STATES.map((value) => ({ value: value as string, label: value }));

/** Heading under which a rework stands in the list. */
export function reworkGroup({ undone, state, isLate }: ReworkRow): string {
  if (undone) return "Undone";
  if (isLate) return "Overdue";
  return state === "done" ? "Done" : state === "to finish" ? "To finish" : "Open";
}

/** What stands over a rework: what is reworked, and its state. */
export function reworkSentence(
  { item, quantity, state, isTheirs, undone }: ReworkSheet,
  format: Format,
): string {
  const what = `${format.amount(quantity, item.unit)} ${item.name}`;
  if (undone) return `The rework of ${what} is undone.`;
  if (state === "done") return isTheirs ? `${what} given back.` : `${what} reworked.`;
  return `${what} ${state === "to finish" ? "to finish" : "in rework"}.`;
}

/** A unit by its number, or its place among the others. */
export const unitName = ({ serial, lot, unit }: Pick<ReworkUnit, "serial" | "lot" | "unit">): string =>
  serial || lot || `unit ${unit}`;

/** The name of the unit that a line is for, where there are several. */
export const forUnit = ({ units }: ReworkSheet, unit: number | null): string => {
  const own = units.find((row) => row.unit === unit);
  return own && units.length > 1 ? `for ${unitName(own)}` : "";
};
