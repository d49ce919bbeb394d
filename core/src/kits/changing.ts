import { type Decimal, max, roundMoney, sum, ZERO } from "../amounts/index.ts";
import type { Problem } from "../problems.ts";
import type { ContentMoney, ContentRules, KitContent, KitTerms } from "./kit.ts";
import { priceOfContents, weight } from "./kit.ts";

/** A content as the kit has it, with the items that may take its place. */
export interface DefinedContent extends KitContent, ContentRules {
  swaps: readonly number[];
}

/** A kit as an order line took it over. */
export interface KitCopy extends KitTerms {
  contents: readonly DefinedContent[];
}

/** One content of a set on an order line. */
export interface OrderedContent {
  /** Place of the kit's content that it stands for, counted from 0; null: it was added. */
  of: number | null;
  item: number;
  /** For one set, in the item's stock unit. */
  quantity: Decimal;
}

/** The contents of a set as its kit has them. */
export const contentsAsDefined = ({ contents }: Pick<KitCopy, "contents">): OrderedContent[] =>
  contents.map(({ item, quantity }, of) => ({ of, item, quantity }));

/** Why the contents of a set may not be as they are, by place among them; what is left out stands at the end. */
export interface ContentProblem extends Pick<Problem, "code" | "params"> {
  /** Place among the contents ordered; null where one is missing. */
  at: number | null;
  field: "item" | "quantity";
}

/** Whether the contents of a set are as its kit allows. `codeOf` names items in messages. */
export function checkContents(
  kit: KitCopy,
  ordered: readonly OrderedContent[],
  codeOf: (item: number) => string,
): ContentProblem[] {
  const problems: ContentProblem[] = [];
  const named = new Set<number>();
  for (const [at, { of, item, quantity }] of ordered.entries()) {
    const refuse = (field: ContentProblem["field"], code: Problem["code"], params: Problem["params"]) =>
      problems.push({ at, field, code, params });
    const defined = of === null ? null : kit.contents[of];
    if (of === null) {
      if (!kit.mayBeAddedTo) refuse("item", "content-not-added", { code: codeOf(item) });
      continue;
    }
    if (!defined || named.has(of)) {
      refuse("item", "content-unknown", { code: codeOf(item) });
      continue;
    }
    named.add(of);
    const { code, params } = { code: codeOf(defined.item), params: { by: codeOf(item) } };
    if (item !== defined.item && defined.swap === "fixed")
      refuse("item", "content-fixed", { code, ...params });
    if (item !== defined.item && defined.swap === "listed" && !defined.swaps.includes(item))
      refuse("item", "content-not-listed", {
        code,
        ...params,
        allowed: defined.swaps.map(codeOf).join(", "),
      });
    if (!quantity.eq(defined.quantity) && !defined.quantityMayChange)
      refuse("quantity", "content-quantity-fixed", { code, quantity: defined.quantity.toFixed() });
  }
  for (const [of, defined] of kit.contents.entries())
    if (!named.has(of) && !defined.mayBeLeftOut)
      problems.push({
        at: null,
        field: "item",
        code: "content-needed",
        params: { code: codeOf(defined.item) },
      });
  return problems;
}

/** What is known of the money of an item that may be in a set. */
export type MoneyOf = (item: number) => Pick<ContentMoney, "price" | "cost">;

/**
 * What a set is offered at when its contents were changed: its price and the difference of list prices × quantity, or the sum of the
 * contents where its kit says so; never below zero. Where a changed content has no list price nothing is offered, and the price
 * stays (docs/rules.md § 7).
 */
export function priceAsChanged(
  kit: KitCopy,
  ordered: readonly OrderedContent[],
  own: Decimal | null,
  moneyOf: MoneyOf,
  decimals: number,
): Decimal | null {
  if (kit.priceRule === "sum")
    return priceOfContents(
      ordered.map(({ item, quantity }) => ({ quantity, ...moneyOf(item) })),
      kit.discount,
      decimals,
    );
  if (own === null) return null;
  const changes = changesOf(kit, ordered).filter(({ quantity }) => !quantity.eq(0));
  const amounts = changes.map(({ item, quantity }) => {
    const { price } = moneyOf(item);
    return price === null ? null : weight(quantity, price);
  });
  if (amounts.some((amount) => amount === null)) return own;
  const difference = sum(amounts.flatMap((amount) => amount ?? []));
  return max(ZERO, roundMoney(own.plus(difference), decimals));
}

/** What more or less of each item is in a set than its kit has; a content that stays as it is changes nothing. */
function changesOf(kit: KitCopy, ordered: readonly OrderedContent[]): { item: number; quantity: Decimal }[] {
  const more = new Map<number, Decimal>();
  const add = (item: number, quantity: Decimal) => more.set(item, (more.get(item) ?? ZERO).plus(quantity));
  for (const { item, quantity } of ordered) add(item, quantity);
  for (const { item, quantity } of kit.contents) add(item, quantity.neg());
  return [...more].map(([item, quantity]) => ({ item, quantity }));
}

/** Whether a set is as its kit defines it. */
export const isAsDefined = (kit: KitCopy, ordered: readonly OrderedContent[]): boolean =>
  ordered.length === kit.contents.length &&
  ordered.every(({ of, item, quantity }) => {
    const defined = of === null ? undefined : kit.contents[of];
    return defined?.item === item && defined.quantity.eq(quantity);
  });

/** Whether two sets have the same in them, in the same places. */
export const sameContents = (a: readonly OrderedContent[], b: readonly OrderedContent[]): boolean =>
  a.length === b.length &&
  a.every(({ of, item, quantity }, i) => {
    const other = b[i];
    return other?.of === of && other.item === item && other.quantity.eq(quantity);
  });

/** Whether two kits say the same of what is sold. */
export const sameKit = (a: KitCopy, b: KitCopy): boolean => definitionKey(a) === definitionKey(b);

const definitionKey = ({ contents, ...terms }: KitCopy): string =>
  JSON.stringify([
    terms.contentsShown,
    terms.mayBeAddedTo,
    terms.priceRule,
    terms.discount.toFixed(),
    contents.map((c) => [c.item, c.quantity.toFixed(), c.swap, c.swaps, c.quantityMayChange, c.mayBeLeftOut]),
  ]);

/** What one set takes from stock, by item. */
export function takenBySet(
  ordered: readonly OrderedContent[],
  isStocked: (item: number) => boolean,
): Map<number, Decimal> {
  const takes = new Map<number, Decimal>();
  for (const { item, quantity } of ordered)
    if (isStocked(item)) takes.set(item, (takes.get(item) ?? ZERO).plus(quantity));
  return takes;
}
