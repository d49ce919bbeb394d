import type { Day, Decimal } from "../amounts/index.ts";
import {
  type Movement,
  type Owner,
  type PickableStock,
  quantityOf,
  type Spot,
  type StockPick,
  take,
} from "../stock/index.ts";
import { buildLine } from "./buildline.ts";
import type { PartShort } from "./finishing.ts";

/** A line of a build of which parts are to be handed out. */
export interface HandOutLine {
  line: number;
  item: number;
  /** How much is to leave the store. */
  quantity: Decimal;
  /** Id of the store that the line names; null, or left out, for none. */
  store?: number | null;
}

export interface HandOut {
  lines: { line: number; taken: StockPick[] }[];
  moves: Movement[];
  /** What the books lack; the rest is planned all the same. */
  shorts: PartShort[];
}

/**
 * What leaves the bins for the bench, or for an outside workshop. Its value is fixed by that move and belongs to the
 * build from then on (docs/rules.md § 5).
 */
export function planHandOut(
  lines: readonly HandOutLine[],
  ready: readonly PickableStock[],
  to: Spot & { owner: Owner },
  day: Day,
  purpose: "handed out" | "moved" = "handed out",
): HandOut {
  const left = ready.map((balance) => ({ ...balance }));
  const shorts: PartShort[] = [];
  const taken = lines.map(({ line, item, quantity, store = null }) => {
    const found = take(left, { item, quantity, only: [], store }, day);
    const there = quantityOf(found);
    if (there.lt(quantity)) shorts.push({ item, needed: quantity, there, short: quantity.minus(there) });
    return { line, taken: found };
  });
  const moves = taken.flatMap(({ line, taken: ones }) =>
    ones.map((one): Movement => ({ ...one, purpose, source: buildLine(to.owner.id, line), to, value: null })),
  );
  return { lines: taken, moves, shorts };
}
