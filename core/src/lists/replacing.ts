import { type Decimal, divideExact, ONE, QUANTITY_DECIMALS, type Unit } from "../amounts/index.ts";
import type { FullLine, Substitute } from "./revision.ts";

/** A part and its successor: `per` of the successor go where `of` of the part went, both in their stock units. */
export interface Replacement {
  part: number;
  successor: number;
  /** The successor's stock unit, and whether it is kept on the books. */
  unit: Unit;
  stocked: boolean;
  per: Decimal;
  of: Decimal;
}

export interface Replaced<Line> {
  lines: Line[];
  /** Places of lines whose new quantity would have to be rounded in the unit of the line; these are left as they were. */
  inexact: number[];
}

/**
 * Puts a successor in a part's place, in lines and among substitutes. Quantities stay in the unit of the line where the
 * successor is told in that dimension, else they go over to its stock unit; they are exact or not changed at all.
 */
export function replaceInLines<Line extends FullLine>(
  lines: readonly Line[],
  replacement: Replacement,
): Replaced<Line> {
  const inexact: number[] = [];
  const replaced = lines.map((line, i): Line => {
    const named = line.item === replacement.part || line.substitutes.some((s) => s.item === replacement.part);
    if (!named) return line;
    const substitutes = replaceSubstitutes(line, replacement);
    const changed = changedIn(line, replacement);
    if (substitutes === null || changed === null) {
      inexact.push(i);
      return line;
    }
    return { ...line, ...changed, substitutes };
  });
  return { lines: replaced, inexact };
}

/** What changes of a line whose part is replaced; null where the quantity would not be exact. */
function changedIn(
  line: FullLine,
  { part, successor, stocked, ...r }: Replacement,
): Partial<FullLine> | null {
  if (line.item !== part) return {};
  const unit = line.unit.dimension === r.unit.dimension ? line.unit : r.unit;
  // of the line's unit over the part's stock unit, times the factor between stock units, back into the unit of the line
  const numerator = line.quantity.times(line.unit.factor).times(r.per).times(r.unit.factor);
  const denominator = line.stockUnit.factor.times(r.of).times(unit.factor);
  const quantity = divideExact(numerator, denominator, unit.decimals);
  return quantity === null ? null : { item: successor, quantity, unit, stockUnit: r.unit, stocked };
}

/** Factors of substitutes are told for one of the part, so they change with it, and where they are the part itself. */
function replaceSubstitutes(line: FullLine, r: Replacement): readonly Substitute[] | null {
  const found = line.substitutes.map((s): Substitute | null => {
    const [ofPart, ofOwn] = [line.item === r.part, s.item === r.part];
    const numerator = s.quantity.times(ofPart ? r.of : ONE).times(ofOwn ? r.per : ONE);
    const denominator = (ofPart ? r.per : ONE).times(ofOwn ? r.of : ONE);
    const quantity = divideExact(numerator, denominator, QUANTITY_DECIMALS);
    return quantity && { item: ofOwn ? r.successor : s.item, quantity };
  });
  return found.every((s) => s !== null) ? found : null;
}
