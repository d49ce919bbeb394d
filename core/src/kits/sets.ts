import { type Decimal, divideDown, min, ONE, ZERO } from "../amounts/index.ts";
import type { Reach } from "../cover/index.ts";
import { free, type StockFigures } from "../stock/index.ts";
import type { KitContent } from "./kit.ts";

export interface SetsAvailable {
  /** Whole sets that the free stock allows; "no limit" where nothing limits; a kit without contents has none to sell. */
  sets: Reach;
  /** The contents with that reach. */
  limiting: number[];
  /** How many sets each content allows, in the order of the contents; null where it never limits. */
  each: (Decimal | null)[];
}

/** The smallest whole number of sets that the free stock of the contents allows (docs/rules.md § 7). */
export function setsAvailable(
  contents: readonly KitContent[],
  stockOf: (item: number) => StockFigures,
): SetsAvailable {
  const perSet = new Map<number, Decimal>();
  for (const { item, quantity } of contents) perSet.set(item, (perSet.get(item) ?? ZERO).plus(quantity));
  const each = contents.map(({ item, stocked }) => {
    const freeQuantity = free(stockOf(item));
    return !stocked
      ? null
      : freeQuantity.lte(0)
        ? ZERO
        : divideDown(freeQuantity, perSet.get(item) ?? ONE, 0);
  });
  const limits = each.filter((sets) => sets !== null);
  const sets = contents.length === 0 ? ZERO : limits.length === 0 ? "no limit" : limits.reduce(min);
  const limiting = contents
    .filter((_, i) => sets !== "no limit" && each[i]?.eq(sets))
    .map(({ item }) => item);
  return { sets, limiting: [...new Set(limiting)], each };
}
