import { type Decimal, min, step, type Unit, ZERO } from "../amounts/index.ts";
import { mostThatFits } from "../cover/index.ts";
import type { ListLine } from "../lists/index.ts";
import { expectedOfList } from "./expected.ts";

export interface ShortPart {
  /** The item that is short. */
  part: number;
  short: Decimal;
  /** Units of the product that are free to be taken apart. */
  free: Decimal;
}

/**
 * The fewest free units of a product whose parts meet a shortage of one of them, by its list's net quantities, and how many of
 * the part they hold; all free ones where they do not suffice.
 */
export function unitsForShortage(
  lines: readonly ListLine[],
  makes: Decimal,
  unit: Pick<Unit, "decimals">,
  { part, short, free }: ShortPart,
): { units: Decimal; held: Decimal } {
  const own = lines.filter(({ item }) => item === part);
  const heldBy = (units: Decimal) => expectedOfList(own, makes, units)[0]?.quantity ?? ZERO;
  const tooFew = mostThatFits(free, unit, (units) => heldBy(units).lt(short));
  const units = free.gt(0) ? min(free, tooFew.plus(step(unit.decimals))) : ZERO;
  return { units, held: heldBy(units) };
}
