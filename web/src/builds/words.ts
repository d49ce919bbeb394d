import type { BuildRow } from "@yosegi/contract";
import type { Format } from "../ui/index.ts";

/** Whether its parts are available, in words; "" for a build that is not in progress. */
export function stateWords(build: BuildRow, format: Format): string {
  if (build.blocked) return `waits for ${format.list(build.waitsFor)}`;
  return build.ready ? (build.stage === "queued" ? "parts available" : "ready to continue") : "";
}

/** The line under a build in the list: its number, and what matters of it now. */
export function buildWords(build: BuildRow, format: Format): string {
  const worked = build.stage === "queued" || build.stage === "on the bench";
  return [
    build.number,
    build.stage,
    worked && (build.good !== "0" || build.rejected !== "0") && `${format.amount(build.good)} made`,
    stateWords(build, format),
    build.late && build.start && `start by ${format.day(build.start)}`,
    build.rejected !== "0" && `${format.amount(build.rejected)} rejected`,
    worked || build.stage === "draft" ? (build.subcontractor?.name ?? build.assigned?.name) : "",
    forWhom(build, format),
  ]
    .filter(Boolean)
    .join(" · ");
}

/** Whom it is built for: the customers of its orders, or the one named without an order. */
export function forWhom({ orders, customer }: BuildRow, format: Format): string {
  const names = orders.map((link) => `${link.customer.name} (${link.number})`);
  if (names.length > 0) return `for ${format.list(names)}`;
  return customer ? `for ${customer.name}` : "";
}

/** Heading under which a build stands in the list. */
export function groupOf(build: BuildRow, today: string): string {
  if (build.stage === "finished") return "Finished";
  if (build.stage === "cancelled") return "Cancelled";
  if (build.due === null) return "No due date";
  if (build.overdue) return "Overdue";
  return build.due === today ? "Due today" : "Due later";
}
