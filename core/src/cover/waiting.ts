/** What one build still has to take, in whole millionths of the stock unit. */
export interface OpenNeeds {
  id: number;
  parts: readonly { item: number; open: number }[];
}

/**
 * Which builds wait, and for which items, when stock is given out in turn: each demand claims its whole need, and what
 * is claimed counts for nobody later. A demand that waits keeps what it claimed.
 */
export function waitsFor(
  demands: readonly OpenNeeds[],
  usable: (item: number) => number,
): Map<number, number[]> {
  const left = new Map<number, number>();
  const waiting = new Map<number, number[]>();
  for (const demand of demands) {
    const lacking = new Set<number>();
    for (const { item, open } of demand.parts) {
      const now = left.get(item) ?? usable(item);
      if (now < open) lacking.add(item);
      left.set(item, Math.max(0, now - open));
    }
    waiting.set(demand.id, [...lacking]);
  }
  return waiting;
}
