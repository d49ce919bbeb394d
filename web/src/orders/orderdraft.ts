import type { ItemRow, OrderedSet, OrderSheet } from "@yosegi/contract";
import { rateBody } from "../fields/index.ts";
import { sentLines } from "../forms/index.ts";
import type { TakenLine } from "../messages/index.ts";

/** A line as it is typed. */
export interface LineDraft {
  id: number | null;
  item: Pick<ItemRow, "id" | "code" | "name" | "unit" | "packs" | "kind" | "tracking"> | null;
  quantity: string;
  price: string;
  pricePer: string;
  /** Percent; empty for none. */
  discount: string;
  /** The day promised for this line alone; empty: as the order says. */
  promised: string;
  /** Of a built item: so many from builds for this line; empty: as proposed. */
  toBuild: string;
  /** The one unit that it asks for; empty: any. */
  serial: string;
  /** Whether shipping finishes what is being built for it. */
  finish: FinishChoice;
  /** Its supplier delivers it straight to the customer. */
  bySupplier: boolean;
  /** The quantity that is saved; "" of a new line. What is to be built is proposed anew where it changes. */
  saved: string;
  /** What is in one set, where that was changed; null: as it was, or as the kit says. */
  contents: ContentDraft[] | null;
  /** It is only text, and nothing else of it is sent. */
  isText: boolean;
  text: string;
}

/** As the item says, or as it is said of this line. */
export type FinishChoice = "as the item" | "yes" | "no";

/** A content of a set as it is typed. */
export interface ContentDraft {
  /** Place of the kit's content it stands for; null: added. */
  of: number | null;
  item: Pick<ItemRow, "id" | "code" | "name" | "unit" | "packs"> | null;
  quantity: string;
}

/** An order as it stands in the form. */
export interface OrderDraft {
  customer: { id: number; name: string } | null;
  due: string;
  isQuote: boolean;
  /** Of a quote. */
  validUntil: string;
  /** The day promised for all lines without one of their own. */
  promised: string;
  reference: string;
  address: string;
  terms: string;
  costTag: string;
  note: string;
  /** Take it though the customer is on hold, or over the credit limit. */
  goOn: boolean;
  lines: LineDraft[];
}

export const BLANK: LineDraft = {
  id: null,
  item: null,
  quantity: "",
  price: "",
  pricePer: "",
  discount: "",
  promised: "",
  toBuild: "",
  serial: "",
  finish: "as the item",
  bySupplier: false,
  saved: "",
  contents: null,
  isText: false,
  text: "",
};

/** A line that is only text. */
export const TEXT: LineDraft = { ...BLANK, isText: true };

export const NEW: OrderDraft = {
  customer: null,
  due: "",
  isQuote: false,
  validUntil: "",
  promised: "",
  reference: "",
  address: "",
  terms: "",
  costTag: "",
  note: "",
  goOn: false,
  lines: [BLANK],
};

export function draftOf(order: OrderSheet): OrderDraft {
  // One day for all lines stands once.
  const same = order.orderLines.every((line) => line.promised === order.promised);
  return {
    customer: order.customer,
    due: order.due ?? "",
    isQuote: order.stage === "quote",
    validUntil: order.stage === "quote" ? (order.validUntil ?? "") : "",
    promised: same ? (order.promised ?? "") : "",
    reference: order.reference,
    address: order.address,
    terms: order.terms,
    costTag: order.costTag,
    note: order.note,
    goOn: false,
    lines: withTexts(
      order,
      order.orderLines.map(
        ({
          price,
          id,
          item,
          quantity,
          pricePer,
          discount,
          promised,
          serial,
          finishWhenShipped,
          bySupplier,
          set,
        }) => ({
          ...BLANK,
          id,
          item,
          quantity,
          // A price that is the sum of the contents follows them.
          price: set?.priceRule === "sum" ? "" : (price ?? ""),
          pricePer,
          serial,
          bySupplier,
          finish: finishWhenShipped === null ? "as the item" : finishWhenShipped ? "yes" : "no",
          discount: discount === "0" ? "" : discount,
          promised: same ? "" : (promised ?? ""),
          saved: quantity,
          contents: set?.changed ? contentsOf(set) : null,
        }),
      ),
    ),
  };
}

/** The lines of an order with its texts in their places. */
const withTexts = ({ texts }: Pick<OrderSheet, "texts">, lines: readonly LineDraft[]): LineDraft[] => {
  const textsAt = (place: number) =>
    texts
      .filter(({ before }) => Math.min(before, lines.length) === place)
      .map(({ text }) => ({ ...TEXT, text }));
  return [...lines.flatMap((line, i) => [...textsAt(i), line]), ...textsAt(lines.length)];
};

/** What is in a set, to be changed. */
export const contentsOf = ({ contents }: OrderedSet): ContentDraft[] =>
  contents.map(({ of, item, quantity }) => ({ of, item, quantity }));

/** The same goods for the same customer once more, at today's prices and on a day that is still to be said. */
export function copyOf(order: OrderSheet): OrderDraft {
  const draft = draftOf(order);
  const movedOn = new Set(order.orderLines.flatMap(({ id, set }) => (set?.movedOn ? id : [])));
  const lines = draft.lines.map((line) => {
    // What was changed of a kit that is another one now can't be said of the new one.
    const contents = movedOn.has(line.id ?? 0) ? null : line.contents;
    return {
      ...line,
      id: null,
      price: "",
      pricePer: "",
      promised: "",
      toBuild: "",
      serial: "",
      saved: "",
      contents,
    };
  });
  return { ...draft, isQuote: false, validUntil: "", due: "", promised: "", reference: "", lines };
}

/** Lines that are still empty are room to go on. */
export const isFilled = (line: LineDraft): boolean =>
  !line.isText && (line.item !== null || line.quantity !== "");

const isFilledText = (line: LineDraft): boolean => line.isText && line.text !== "";

/** Where a field of what is sent stands in the form: texts stand among the lines. */
export const fieldOfOrder = (path: string, values: object): string =>
  path.startsWith("texts.")
    ? sentLines("lines", isFilledText)(path.replace("texts", "lines"), values)
    : sentLines("lines", isFilled)(path, values);

/** The lines of an order with those that were read from a message after them. */
export const withTaken = (lines: readonly LineDraft[], taken: readonly TakenLine[]): LineDraft[] => [
  ...lines.filter((line) => isFilled(line) || isFilledText(line)),
  ...taken.map((line) => ({ ...BLANK, ...line })),
];

export const soldLine = ({
  id,
  item,
  quantity,
  price,
  pricePer,
  discount,
  contents,
  toBuild,
  serial,
  finish,
  bySupplier,
  saved,
}: LineDraft) => ({
  id,
  serial,
  bySupplier,
  finishWhenShipped: finish === "as the item" ? null : finish === "yes",
  toBuild: toBuild === "" ? null : toBuild,
  proposeBuild: quantity !== saved,
  newDefinition: false,
  contents:
    contents?.map((content) => ({
      of: content.of,
      item: content.item?.id ?? 0,
      quantity: content.quantity,
    })) ?? null,
  item: item?.id ?? 0,
  quantity,
  ...rateBody(price, pricePer),
  discount: discount === "" ? "0" : discount,
});

const dayOrNull = (typed: string): string | null => (typed === "" ? null : typed);

export const bodyOf = ({ customer, due, isQuote, validUntil, promised, lines, ...draft }: OrderDraft) => ({
  ...draft,
  validUntil: isQuote ? validUntil : null,
  texts: lines.flatMap((line, i) =>
    isFilledText(line) ? [{ before: lines.slice(0, i).filter(isFilled).length, text: line.text }] : [],
  ),
  customer: customer?.id ?? 0,
  due: dayOrNull(due),
  lines: lines
    .filter(isFilled)
    .map((line) => ({ ...soldLine(line), promised: dayOrNull(line.promised || promised) })),
});

/** Lines that the other person took away are new ones, where this order is to have them. */
export function rebase(mine: OrderDraft, saved: OrderDraft): OrderDraft {
  const there = new Set(saved.lines.map((line) => line.id));
  return { ...mine, lines: mine.lines.map((line) => (there.has(line.id) ? line : { ...line, id: null })) };
}
