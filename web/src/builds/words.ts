import type { BuildRow } from "@yosegi/contract";
import type { Format } from "../ui/index.ts";

export const STAGE_WORDS: Record<BuildRow["stage"], string> = {
  draft: "draft",
  queued: "queued",
  finished: "finished",
  cancelled: "cancelled",
};

/** The line under a build in the list: its number, and what matters of it now. */
export function buildWords(build: BuildRow, format: Format): string {
  const words = [build.number, STAGE_WORDS[build.stage]];
  if (build.stage === "queued") {
    if (build.good !== "0" || build.rejected !== "0") words.push(`${format.amount(build.good)} made`);
    words.push(build.waitsFor.length === 0 ? "parts there" : `waits for ${format.list(build.waitsFor)}`);
  }
  if (build.rejected !== "0") words.push(`${format.amount(build.rejected)} rejected`);
  return words.join(" · ");
}

/** Heading under which a build stands in the list. */
export function groupOf(build: BuildRow, today: string): string {
  if (build.stage === "finished") return "Finished";
  if (build.stage === "cancelled") return "Cancelled";
  if (build.due === null) return "No due day";
  if (build.due < today) return "Overdue";
  return build.due === today ? "Due today" : "Due later";
}
