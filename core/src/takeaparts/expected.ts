import { type Decimal, divideDown } from "../amounts/index.ts";
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

/** An item's lines as one, in the order in which it is first named; what rounds down to nothing is left out. */
function perItem(parts: readonly ExpectedPart[]): ExpectedPart[] {
  const found = new Map<number, ExpectedPart>();
  for (const { item, quantity } of parts)
    found.set(item, { item, quantity: found.get(item)?.quantity.plus(quantity) ?? quantity });
  return [...found.values()].filter(({ quantity }) => quantity.gt(0));
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
      quantity: divideDown(used.minus(scrapped).times(quantity), worked, decimals),
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
      const { numerator, denominator } = needOfOne({ ...line, waste: line.waste.times(0) }, makes);
      return {
        item: line.item,
        quantity: divideDown(numerator.times(quantity), denominator, needUnit(line).decimals),
      };
    }),
  );
