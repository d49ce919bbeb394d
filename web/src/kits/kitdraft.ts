import { type ItemRow, type ItemSheet, type KitBody, rateFrom } from "@yosegi/contract";
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
    contentsShown: kit?.contentsShown ?? true,
    mayBeAddedTo: kit?.mayBeAddedTo ?? false,
    priceRule: kit?.priceRule ?? "own",
    discount: kit?.discount ?? "0",
    price: item.ownPrice ?? "",
    contents: [...contents.map((content, key) => ({ ...content, key })), emptyContent(contents.length)],
  };
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

export interface KitFigures {
  cost: string | null;
  price: string | null;
  margin: Margin | null;
  /** Whole sets; null where nothing limits. */
  sets: string | null;
  limiting: string[];
}

/** Cost, price and available sets, from the contents that are complete enough to calculate with. */
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
