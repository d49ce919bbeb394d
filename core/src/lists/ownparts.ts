import {
  AmountTooLarge,
  type Decimal,
  decimalsOf,
  divideUp,
  LARGEST_STORED,
  max,
  min,
  ONE,
  QUANTITY_DECIMALS,
  quantityFromScaled,
  step,
  ZERO,
} from "../amounts/index.ts";
import { type ListLine, lineNeed, needUnit, type PartsList } from "./partslist.ts";
import type { FullLine, TakenInstead } from "./revision.ts";

/** A line as a parts list says it, or with so much of it that a person said for the whole build, in its need unit. */
export interface OwnLine<Line extends ListLine> {
  line: Line;
  need: Decimal | null;
}

/**
 * The parts of one build that a person changed, as a list of its own (docs/rules.md § 2). A need that was said for all `units` may be no exact quantity
 * a batch, so the batch is made as large as it takes for every line to be met exactly, also by the lines that stay.
 */
export function ownParts<Line extends ListLine>(
  makes: Decimal,
  units: Decimal,
  lines: readonly OwnLine<Line>[],
): { makes: Decimal; lines: Line[] } {
  const said = lines.map(({ line, need }): Line => {
    if (need === null) return line;
    const unit = needUnit(line);
    return { ...line, quantity: line.oncePerBuild ? need : need.times(makes), unit, waste: ZERO };
  });
  const grows = (i: number) => !said[i]?.oncePerBuild;
  const batch = makes.times(units);
  const quantities = said.map((line, i) =>
    grows(i) && lines[i]?.need === null ? line.quantity.times(units) : line.quantity,
  );
  const scale = inStorableNumbers([batch, ...quantities.filter((_, i) => grows(i))]);
  return {
    makes: scale(batch),
    lines: said.map((line, i) => (grows(i) ? { ...line, quantity: scale(quantities[i] ?? ZERO) } : line)),
  };
}

/** How amounts are divided by one number, so that they keep their ratio and are as small as whole millionths allow. */
function inStorableNumbers(amounts: readonly Decimal[]): (amount: Decimal) => Decimal {
  const decimals = Math.max(...amounts.map(decimalsOf));
  const whole = (amount: Decimal) => BigInt(amount.div(step(decimals)).toFixed(0));
  const divisor = amounts.map(whole).reduce(greatestCommonDivisor);
  const largest = whole(amounts.reduce(max)) / divisor;
  if (largest > BigInt(LARGEST_STORED))
    throw new AmountTooLarge("These parts need a batch that is too large to be stored");
  // Whole numbers where they can be stored, for they are read more easily; else as many millionths.
  const places = largest * 10n ** BigInt(QUANTITY_DECIMALS) <= BigInt(LARGEST_STORED) ? QUANTITY_DECIMALS : 0;
  return (amount) => quantityFromScaled(Number((whole(amount) / divisor) * 10n ** BigInt(places)));
}

const greatestCommonDivisor = (a: bigint, b: bigint): bigint =>
  b === 0n ? a : greatestCommonDivisor(b, a % b);

/** How much of a substitute stands in for so much of a part in its stock unit: by its factor, raised to the substitute's decimals. */
export const substituteFor = (part: Decimal, factor: Decimal, decimals: number): Decimal =>
  divideUp(part.times(factor), ONE, decimals);

/**
 * A list for `units` in which a substitute takes the place of a part only for the `short` of it, in its stock unit: lines that allow
 * the substitute give way from the last on, each with a line of the substitute at the end.
 */
export function takeForShort<Line extends FullLine>(
  list: PartsList<Line>,
  units: Decimal,
  part: number,
  by: TakenInstead,
  short: Decimal,
): PartsList<Line> {
  let rest = short;
  const kept: OwnLine<Line>[] = [];
  const added: OwnLine<Line>[] = [];
  for (const line of [...list.lines].reverse()) {
    const allowed = line.item === part && line.substitutes.find((s) => s.item === by.item);
    const need = allowed ? lineNeed(line, list.makes, units) : ZERO;
    const replaced = min(rest, need);
    rest = rest.minus(replaced);
    kept.unshift({ line, need: replaced.eq(0) ? null : need.minus(replaced) });
    if (!allowed || replaced.eq(0)) continue;
    const unit = { ...by.unit, factor: line.stockUnit.factor };
    added.push({
      line: { ...line, item: by.item, stocked: by.stocked, unit, stockUnit: unit, substitutes: [] },
      need: substituteFor(replaced, allowed.quantity, by.unit.decimals),
    });
  }
  return { ...list, ...ownParts(list.makes, units, [...kept, ...added]) };
}

/** How the parts of one build differ from its parts list. */
export interface PartsDeviation {
  /** For each line of the build: what the list plans of it; null where it is not on the list. */
  listed: ({ item: number; need: Decimal } | null)[];
  /** Lines of the list that the build has none of. */
  leftOut: { item: number; need: Decimal; unit: string }[];
}

/** Compares the lines of a build of `units` with those of its list, where each knows from which it comes (1 is the first). */
export function partsDeviation(
  list: Pick<PartsList, "makes"> & { lines: readonly (ListLine & { listLine: number })[] },
  units: Decimal,
  lines: readonly { listLine: number | null }[],
): PartsDeviation {
  const needs = new Map(
    list.lines.map((line) => [
      line.listLine,
      { item: line.item, need: lineNeed(line, list.makes, units), unit: needUnit(line).code },
    ]),
  );
  const listed = lines.map(({ listLine }) => (listLine === null ? null : (needs.get(listLine) ?? null)));
  const kept = new Set(lines.map((line) => line.listLine));
  return {
    listed: listed.map((found) => found && { item: found.item, need: found.need }),
    leftOut: [...needs].flatMap(([listLine, found]) => (kept.has(listLine) ? [] : [found])),
  };
}
