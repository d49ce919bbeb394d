import type { MovedOrder, OrderPromiseAnswer, Waiting } from "@yosegi/contract";
import { compareDays } from "@yosegi/core";
import type { Format } from "../ui/index.ts";

/** Whether a promise that stands at a day, or nowhere, is later than the one that was given. */
export const isLater = (day: string | null, promised: string): boolean => compareDays(day, promised) > 0;

/** A day on which something could leave: "today", "12 Dec". */
export const dayWords = (day: string | null, format: Format): string =>
  day === null ? "on an unknown date" : day === format.settings.today ? "today" : format.day(day);

/** When a line could leave. */
export const leavesWords = (day: string | null, format: Format): string =>
  day === null ? "date unknown" : `can leave ${dayWords(day, format)}`;

/** When all of an order could leave, in a sentence. */
export function promiseWords({ day, complete }: OrderPromiseAnswer, format: Format): string {
  if (day === null) return "No date yet for the whole order.";
  const words =
    day === format.settings.today ? "All of it can leave today" : `All of it can leave by ${format.day(day)}`;
  return format.sentence(complete === false ? `${words}, after the due date` : words);
}

/** What holds an order, and what would help; `line` names the line. */
export function holdingWords(
  { waitsFor, stockFor }: NonNullable<OrderPromiseAnswer["heldBy"]>,
  line: string,
  format: Format,
): string {
  const whose = stockFor.map(({ number, customer, quantity }) => {
    return `${number} (${customer}) ${format.amount(quantity, waitsFor.item.unit)}`;
  });
  const taken = whose.length === 0 ? "" : ` Comes first and has stock of it: ${format.list(whose)}.`;
  return format.sentence(`${line} is last: ${waitingWords(waitsFor, format)}`) + taken;
}

/** One thing that a line waits for. */
export function waitingWords(
  { item, quantity, day, how, document, overdue }: Waiting,
  format: Format,
): string {
  const what = `${format.amount(quantity, item.unit)} of ${item.code}`;
  const when = day === null ? "" : ` ${format.day(day)}`;
  if (how === "to build")
    return day === null ? `${what} to build, date unknown` : `${what} to build, ready${when}`;
  if (how === "to order") return `${what} to order, arrives${when}`;
  if (how === "unknown") return `${what} with no supplier lead time, parts list or expected delivery`;
  const from = document ? ` on ${document.number}` : "";
  if (day === null) return `${what}${from}, no date`;
  return overdue ? `${what}${from}, overdue` : `${what}${from}, expected${when}`;
}

/** Another order that loses stock, or leaves later. */
export function takenWords({ number, customer, before, after }: MovedOrder, format: Format): string {
  const moved =
    before === after
      ? ""
      : `, which leaves ${dayWords(after, format)} instead of ${dayWords(before, format)}`;
  return format.sentence(`Takes stock from ${number} (${customer})${moved}`);
}
