import type { ItemRow, ItemSheet, KitBody } from "@yosegi/contract";
import {
  type ContentRules,
  costOfContents,
  type Decimal,
  decimal,
  isStocked,
  type KitTerms,
  type Margin,
  margin,
  NO_STOCK,
  priceOfContents,
  setsAvailable,
  ZERO,
} from "@yosegi/core";
import { rateFrom } from "../fields/index.ts";

/** What a content must know of its item. */
export type ContentItem = Pick<
  ItemRow,
  | "id"
  | "code"
  | "name"
  | "kind"
  | "unit"
  | "free"
  | "currentCost"
  | "priceRate"
  | "notStockTracked"
  | "packs"
>;

export interface DraftContent extends ContentRules {
  key: number;
  item: ContentItem | null;
  quantity: string;
  /** Codes of the items that may take its place. */
  swaps: { code: string; name: string }[];
}

export interface DraftKit extends Omit<KitTerms, "discount"> {
  /** Of the kit as it was when this began. */
  version: number;
  discount: string;
  price: string;
  contents: DraftContent[];
}

export const emptyContent = (key: number): DraftContent => ({
  key,
  item: null,
  quantity: "1",
  swap: "fixed",
  swaps: [],
  quantityMayChange: false,
  mayBeLeftOut: false,
});

export function draftOfKit(item: ItemSheet): DraftKit {
  const { kit } = item;
  const contents = kit?.contents ?? [];
  return {
    version: kit?.version ?? 0,
    contentsShown: kit?.contentsShown ?? true,
    mayBeAddedTo: kit?.mayBeAddedTo ?? false,
    priceRule: kit?.priceRule ?? "own",
    discount: kit?.discount ?? "0",
    price: item.ownPrice ?? "",
    contents: [...contents.map((content, key) => ({ ...content, key })), emptyContent(contents.length)],
  };
}

/** Changes one content. The last is always empty, so that there is one to go on at. */
export function changeContent(draft: DraftKit, key: number, to: Partial<DraftContent>): DraftKit {
  const contents = draft.contents.map((content) => (content.key === key ? { ...content, ...to } : content));
  if (contents.at(-1)?.item !== null)
    contents.push(emptyContent(Math.max(-1, ...contents.map((content) => content.key)) + 1));
  return { ...draft, contents };
}

export function bodyOfKit(draft: DraftKit): KitBody {
  const { contentsShown, mayBeAddedTo, priceRule, discount, price } = draft;
  return {
    contentsShown,
    mayBeAddedTo,
    priceRule,
    discount,
    price: priceRule === "sum" || price === "" ? null : price,
    contents: draft.contents
      .filter((content) => content.item !== null)
      .map(({ item, quantity, swap, swaps, quantityMayChange, mayBeLeftOut }) => ({
        item: item?.code ?? "",
        quantity,
        swap,
        quantityMayChange,
        mayBeLeftOut,
        swaps: swap === "listed" ? swaps.map((s) => s.code) : [],
      })),
  };
}

/** What a kit says, to be held against what somebody else made of it. */
export const describe = (draft: DraftKit): (readonly [what: string, text: string])[] => [
  ["Price", draft.priceRule === "own" ? draft.price : `sum of the contents less ${draft.discount} %`],
  ["Contents shown to the customer", draft.contentsShown ? "yes" : "no"],
  ["More may be added", draft.mayBeAddedTo ? "yes" : "no"],
  ...draft.contents
    .filter((content) => content.item !== null)
    .map(({ item, quantity, swap }): [string, string] => [
      "Content",
      [`${quantity} ${item?.code}`, swap !== "fixed" && `swap: ${swap}`].filter(Boolean).join(", "),
    ]),
];

export interface KitFigures {
  cost: string | null;
  price: string | null;
  margin: Margin | null;
  /** Whole sets; null where nothing limits. */
  sets: string | null;
  limiting: string[];
}

/** What a set costs and brings, and how many there are, of the contents that can be figured already. */
export function figuresOfKit(draft: DraftKit, decimals: number): KitFigures {
  const contents = draft.contents.flatMap(({ item, quantity }) => {
    const of = amount(quantity);
    return item && of?.gt(0) ? [{ item, quantity: of }] : [];
  });
  const money = contents.map(({ item, quantity }) => ({
    quantity,
    price: rateFrom(item.priceRate),
    cost: rateFrom(item.currentCost),
  }));
  const less = amount(draft.discount);
  const cost = costOfContents(money);
  const price =
    draft.priceRule === "own"
      ? amount(draft.price)
      : less?.lte(100)
        ? priceOfContents(money, less, decimals)
        : null;
  const free = new Map(contents.map(({ item }) => [item.id, amount(item.free) ?? ZERO]));
  const available = setsAvailable(
    contents.map(({ item, quantity }) => ({ item: item.id, quantity, stocked: isStocked(item) })),
    (item) => ({ ...NO_STOCK, onHand: free.get(item) ?? ZERO }),
  );
  return {
    cost: cost?.toFixed(4) ?? null,
    price: price?.toFixed(decimals) ?? null,
    margin: cost && price ? margin(price, cost) : null,
    sets: available.sets === "no limit" ? null : available.sets.toFixed(),
    limiting: contents
      .filter(({ item }) => available.limiting.includes(item.id))
      .map(({ item }) => item.name),
  };
}

function amount(text: string): Decimal | null {
  return /^-?\d+(\.\d+)?$/.test(text) ? decimal(text) : null;
}
