import type { ReturnOutcome, ReturnRow, ReturnSheet } from "@yosegi/contract";
import type { Format } from "../ui/index.ts";

export const OUTCOME_WORDS: Record<ReturnOutcome, string> = {
  stock: "put back",
  scrap: "scrapped",
  "take apart": "taken apart",
  rework: "put into a rework",
  supplier: "sent back to its supplier",
};

/** Heading under which a return stands in the list. */
export function returnGroup({ undone, open }: ReturnRow): string {
  if (undone) return "Undone";
  return open > 0 ? "To be inspected" : "Inspected";
}

/** What stands over a return: what is to be done with it. */
export function returnSentence({ open, lines, undone }: ReturnSheet, format: Format): string {
  if (undone) return "This return is undone.";
  if (open === 0) return "All of it is inspected.";
  return `${format.count(open, "line", "lines")} of ${lines} to inspect.`;
}
