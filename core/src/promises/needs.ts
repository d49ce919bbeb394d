import type { Day, Decimal } from "../amounts/index.ts";
import type { DemandCover } from "../cover/index.ts";
import type { ComponentPromise } from "./promise.ts";

/** What is to be bought for a component of an order line, itself or a part of what is to be built for it. */
export interface ToBuy {
  item: number;
  quantity: Decimal;
  /** The component that it goes into; null where it is the component itself. */
  product: number | null;
}

/** What is to be built first because it is a part of what is to be built. */
export interface ToBuildFirst {
  item: number;
  quantity: Decimal;
  /** When it must be there. */
  needed: Day | null;
}

/** All that is to be bought and built first so that a component can leave; the component's own build is not among it. */
export function needsOfComponent({ item, uncovered, first }: ComponentPromise): {
  buy: ToBuy[];
  build: ToBuildFirst[];
} {
  if (uncovered.eq(0)) return { buy: [], build: [] };
  if (first === null) return { buy: [{ item, quantity: uncovered, product: null }], build: [] };
  const needs: { buy: ToBuy[]; build: ToBuildFirst[] } = { buy: [], build: [] };
  collect(first, item, needs);
  return needs;
}

function collect(cover: DemandCover, product: number, needs: { buy: ToBuy[]; build: ToBuildFirst[] }): void {
  for (const { item, uncovered, first } of cover.parts) {
    if (uncovered.eq(0)) continue;
    if (first === null) needs.buy.push({ item, quantity: uncovered, product });
    else {
      needs.build.push({ item, quantity: uncovered, needed: cover.startDay });
      collect(first, product, needs);
    }
  }
}
