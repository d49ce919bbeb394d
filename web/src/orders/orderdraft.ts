import type { ItemRow, OrderedSet, OrderSheet } from "@yosegi/contract";
import { rateBody } from "../fields/index.ts";

/** A line as it is typed. */
export interface LineDraft {
  id: number | null;
  item: Pick<ItemRow, "id" | "code" | "name" | "unit" | "packs" | "kind"> | null;
  quantity: string;
  price: string;
  pricePer: string;
  /** Percent; empty for none. */
  discount: string;
  /** The day promised for this line alone; empty: as the order says. */
  promised: string;
  /** Of a built item: so many from builds for this line; empty: as proposed. */
  toBuild: string;
  /** The quantity that is saved; "" of a new line. What is to be built is proposed anew where it changes. */
  saved: string;
  /** What is in one set, where that was changed; null: as it was, or as the kit says. */
  contents: ContentDraft[] | null;
}

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
  saved: "",
  contents: null,
};

export const NEW: OrderDraft = {
  customer: null,
  due: "",
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
    promised: same ? (order.promised ?? "") : "",
    reference: order.reference,
    address: order.address,
    terms: order.terms,
    costTag: order.costTag,
    note: order.note,
    goOn: false,
    lines: order.orderLines.map(({ price, id, item, quantity, pricePer, discount, promised, set }) => ({
      id,
      item,
      quantity,
      // A price that is the sum of the contents follows them.
      price: set?.priceRule === "sum" ? "" : (price ?? ""),
      pricePer,
      discount: discount === "0" ? "" : discount,
      promised: same ? "" : (promised ?? ""),
      toBuild: "",
      saved: quantity,
      contents: set?.changed ? contentsOf(set) : null,
    })),
  };
}

/** What is in a set, to be changed. */
export const contentsOf = ({ contents }: OrderedSet): ContentDraft[] =>
  contents.map(({ of, item, quantity }) => ({ of, item, quantity }));

/** The same goods for the same customer once more, at today's prices and on a day that is still to be said. */
export function copyOf(order: OrderSheet): OrderDraft {
  const draft = draftOf(order);
  const lines = draft.lines.map((line, i) => {
    // What was changed of a kit that is another one now can't be said of the new one.
    const contents = order.orderLines[i]?.set?.movedOn ? null : line.contents;
    return { ...line, id: null, price: "", pricePer: "", promised: "", toBuild: "", saved: "", contents };
  });
  return { ...draft, due: "", promised: "", reference: "", lines };
}

/** Lines that are still empty are room to go on. */
export const isFilled = (line: LineDraft): boolean => line.item !== null || line.quantity !== "";

export const soldLine = ({
  id,
  item,
  quantity,
  price,
  pricePer,
  discount,
  contents,
  toBuild,
  saved,
}: LineDraft) => ({
  id,
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

export const bodyOf = ({ customer, due, promised, lines, ...draft }: OrderDraft) => ({
  ...draft,
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
