import { type Decimal, max, ZERO } from "../amounts/index.ts";

/** What one build still has to take. */
export interface OpenNeeds {
  id: number;
  parts: readonly { item: number; open: Decimal }[];
}

/**
 * Which builds wait, and for which items, when stock is given out in turn: each demand claims its whole need, and what
 * is claimed counts for nobody later. A demand that waits keeps what it claimed.
 */
export function waitsFor(
  demands: readonly OpenNeeds[],
  there: (item: number) => Decimal,
): Map<number, number[]> {
  const left = new Map<number, Decimal>();
  const waiting = new Map<number, number[]>();
  for (const demand of demands) {
    const lacking = new Set<number>();
    for (const { item, open } of demand.parts) {
      const now = left.get(item) ?? there(item);
      if (now.lt(open)) lacking.add(item);
      left.set(item, max(ZERO, now.minus(open)));
    }
    waiting.set(demand.id, [...lacking]);
  }
  return waiting;
}
