import { type Decimal, divideDown, ZERO } from "../amounts/index.ts";
import { type ListLine, needOfOne, needUnit } from "../lists/index.ts";

/** What finishes of a build really used of a part. */
export interface UsedPart extends Pick<ListLine, "item" | "oncePerBuild" | "service" | "stocked"> {
  used: Decimal;
  /** Of that, what went into no unit. */
  scrapped: Decimal;
  /** Decimals of the part's stock unit. */
  decimals: number;
}

export interface ExpectedPart {
  item: number;
  quantity: Decimal;
}

/** What can be taken out of a unit again: not work, not what is not on the books, not what a build takes once. */
const comesOut = ({
  oncePerBuild,
  service,
  stocked,
}: Pick<ListLine, "oncePerBuild" | "service" | "stocked">) => !oncePerBuild && !service && stocked;

/** What a line expects of its item: an exact fraction, so that lines of one item are rounded down together. */
interface Fraction {
  item: number;
  numerator: Decimal;
  denominator: Decimal;
  decimals: number;
}

/** An item's lines as one, in the order in which it is first named; what rounds down to nothing is left out. */
function perItem(lines: readonly Fraction[]): ExpectedPart[] {
  const found = new Map<number, Fraction>();
  for (const line of lines) {
    const { item, numerator, denominator } = line;
    const before = found.get(item);
    found.set(
      item,
      before
        ? {
            ...before,
            numerator: before.numerator.times(denominator).plus(numerator.times(before.denominator)),
            denominator: before.denominator.times(denominator),
          }
        : line,
    );
  }
  return [...found.values()]
    .map(({ item, numerator, denominator, decimals }) => ({
      item,
      quantity: divideDown(numerator, denominator, decimals),
    }))
    .filter(({ quantity }) => quantity.gt(0));
}

/** The parts expected in so many units of a build, by what was really used for the units that were worked, good and rejected (docs/rules.md § 17). */
export const expectedOfBuild = (
  parts: readonly UsedPart[],
  worked: Decimal,
  quantity: Decimal,
): ExpectedPart[] =>
  perItem(
    parts.filter(comesOut).map(({ item, used, scrapped, decimals }) => ({
      item,
      numerator: used.minus(scrapped).times(quantity),
      denominator: worked,
      decimals,
    })),
  );

/** The same where the build is not known: by a list's net quantities, without waste. */
export const expectedOfList = (
  lines: readonly ListLine[],
  makes: Decimal,
  quantity: Decimal,
): ExpectedPart[] =>
  perItem(
    lines.filter(comesOut).map((line) => {
      const { numerator, denominator } = needOfOne({ ...line, waste: ZERO }, makes);
      return {
        item: line.item,
        numerator: numerator.times(quantity),
        denominator,
        decimals: needUnit(line).decimals,
      };
    }),
  );
