import type {
  AnswerOf,
  ErrorAnswer,
  OrderLine,
  OrderPreview,
  OrderRow,
  OrderSheet,
  orderRoutes,
} from "@yosegi/contract";
import { decimal, isOpenOrder } from "@yosegi/core";
import type { Format } from "../ui/index.ts";

/** Heading under which an order stands in the list. */
export function groupOf(order: OrderRow, today: string): string {
  if (order.stage === "cancelled") return "Cancelled";
  if (order.stage === "shipped") return "Shipped";
  if (order.stage === "quote") return order.lapsed ? "Quotes no longer valid" : "Quotes";
  if (order.due === null) return "No due date";
  if (order.overdue) return "Overdue";
  return order.due === today ? "Due today" : "Due later";
}

/** Lines that are not all ready, but of which nothing is missing: the rest is on its way. */
export const linesComing = ({ lines, linesReady, linesMissing }: OrderRow): string =>
  String(lines - linesReady - linesMissing);

/** Whether something of an order is to be ordered for delivery straight to the customer. */
export const isToBeDelivered = ({ stage, orderLines }: Pick<OrderSheet, "stage" | "orderLines">): boolean =>
  isOpenOrder(stage) &&
  orderLines.some(
    ({ bySupplier, takes }) =>
      bySupplier && takes.some(({ missing, planned }) => decimal(missing).gt(planned)),
  );

/** Whether something of an order could leave now. */
export const isShippable = ({ linesReady, linesReadyInPart }: OrderRow): boolean =>
  linesReady + linesReadyInPart > 0;

/** Whether something is packed for it. */
export const isPacked = ({ orderLines }: OrderSheet): boolean =>
  orderLines.some(({ takes }) => takes.some(({ packed }) => packed !== "0"));

/** The progress of an open order, in words; "" of any other. */
export function stateWords(order: OrderRow, format: Format): string {
  if (!isOpenOrder(order.stage)) return "";
  if (order.linesReady === order.lines) return "ready to ship";
  const rest =
    order.linesMissing === 0
      ? "the rest is on its way"
      : `${format.count(order.linesMissing, "line", "lines")} short`;
  return isShippable(order) ? `ready in part, ${rest}` : rest;
}

/** Where an order stands, in words; of a quote until when it is valid. */
export function stageWords({ stage, lapsed, validUntil }: OrderRow, format: Format): string {
  if (stage !== "quote" || validUntil === null) return stage;
  return `quote, ${lapsed ? "was valid" : "valid"} until ${format.day(validUntil)}`;
}

/** The line under an order in the list. */
export function orderWords(order: OrderRow, format: Format): string {
  return [
    order.number,
    order.reference,
    order.stage === "part shipped" && "part shipped",
    isOpenOrder(order.stage) ? stateWords(order, format) : stageWords(order, format),
  ]
    .filter(Boolean)
    .join(" · ");
}

/** How much of a content was ordered: what is open, left or was closed. */
export const orderedOf = ({ open, shipped, closed }: Take): string =>
  decimal(open).plus(shipped).plus(closed).toFixed();

/** What a line takes of one item. */
export type Take = OrderLine["takes"][number];

/** What the tiles of a row say to those who do not see them. */
export function farWords(line: OrderLine, take: Take | null, format: Format): string {
  const { ready, open } = take ?? { ready: line.ready, open: line.quantity };
  const there = `${format.amount(ready)} of ${format.amount(open)} ready`;
  return take && take.coming !== "0" ? `${there}, ${format.amount(take.coming)} incoming` : there;
}

/** A row of the sheet's table: a line, or one content of a set under its line. */
export interface SheetRow {
  key: string;
  line: OrderLine;
  /** What the row tells of; null where the line takes nothing from stock, or is a set with its contents below it. */
  take: Take | null;
  /** Whether it stands for the line itself, not for a content. */
  own: boolean;
}

/** The lines of an order as rows; the contents of a set stand under it. */
export function rowsOf(order: Pick<OrderSheet, "orderLines">): SheetRow[] {
  return order.orderLines.flatMap((line): SheetRow[] => {
    const [only] = line.takes;
    if (line.takes.length <= 1 && (only === undefined || only.item.id === line.item.id))
      return [{ key: `${line.id}`, line, take: only ?? null, own: true }];
    return [
      { key: `${line.id}`, line, take: null, own: true },
      ...line.takes.map((take) => ({ key: `${line.id} ${take.item.id}`, line, take, own: false })),
    ];
  });
}

/** What could be built for an order: what is missing of products that have a list, and stands on no draft yet. */
export const buildable = (
  order: Pick<OrderSheet, "orderLines">,
): { line: number; item: number; quantity: string }[] =>
  order.orderLines.flatMap((line) =>
    line.takes.flatMap(({ item, missing, planned, canBeBuilt }) => {
      const rest = decimal(missing).minus(planned);
      return canBeBuilt && rest.gt(0) ? [{ line: line.id, item: item.id, quantity: rest.toFixed() }] : [];
    }),
  );

/** What was done with a content of a set: swapped, added, another quantity; "" where it is as its kit says. */
export function changeWords({ set }: Pick<OrderLine, "set">, item: number, format: Format): string {
  const content = set?.contents.find((own) => own.item.id === item);
  if (!set || !content) return "";
  const defined = set.defined.find(({ of }) => of === content.of);
  if (!defined) return "added";
  if (defined.item.id !== item) return `instead of ${defined.item.code}`;
  return decimal(content.quantity).eq(defined.quantity)
    ? ""
    : `${format.amount(content.quantity)} instead of ${format.amount(defined.quantity)} a set`;
}

/** Codes of what was left out of a set. */
export const leftOut = ({ contents, defined }: NonNullable<OrderLine["set"]>): string[] =>
  defined.flatMap(({ of, item }) => (contents.some((content) => content.of === of) ? [] : item.code));

/** What is said of an order that was saved. */
export function savedWords(
  { number, stage, builds }: AnswerOf<typeof orderRoutes.newOrder>,
  isNew: boolean,
  format: Format,
): string {
  if (isNew && stage === "quote") return `Quote ${number} created. It reserves nothing.`;
  const saved = isNew ? `Order ${number} created. Stock is reserved.` : `${number} saved.`;
  return builds.length === 0
    ? saved
    : `${saved} To build: ${format.list(builds.map((build) => build.number))}.`;
}

/** What was put on builds and purchase orders. */
export function suppliedWords(
  { builds, purchases, unsupplied }: AnswerOf<typeof orderRoutes.supplyOrder>,
  format: Format,
): string {
  const made = [...builds, ...purchases].map((document) => document.number);
  const words =
    made.length === 0 ? "All of it is on builds and purchase orders already." : `On ${format.list(made)}.`;
  return unsupplied.length === 0 ? words : `${words} No supplier or parts list: ${format.list(unsupplied)}.`;
}

/** Refusals that a person may go on from. */
const GO_ON = ["quote-lapsed", "customer-on-hold", "credit-exceeded"];

export const mayGoOn = (refusal: ErrorAnswer | null): boolean =>
  refusal !== null && GO_ON.includes(refusal.code);

/** What is said of a customer's credit and hold while an order is taken; "" where there is nothing to say. */
export function customerWords(
  { onHold, creditLimit, used, stop }: NonNullable<OrderPreview["customer"]>,
  format: Format,
): string {
  const credit =
    creditLimit === null
      ? ""
      : `Credit limit ${format.money(creditLimit)}, ${format.money(used)} in other open orders.`;
  const over = stop === "over the credit limit" ? "This order goes over it." : "";
  return [onHold && "On hold.", credit, over].filter(Boolean).join(" ");
}
