import { type Decimal, max, ZERO } from "../amounts/index.ts";

/** A line that a person settled. */
export interface SettledLine {
  quantity: Decimal;
  /** Place of the line that it is part of, such as 3 of 12 with another content; null: it stands by itself. */
  of: number | null;
}

/** What is left of each line once those that are part of it stand by themselves: 12, of which 3 → 9 and 3. Never below zero. */
export function quantitiesLeft(lines: readonly SettledLine[]): Decimal[] {
  return lines.map(({ quantity }, at) =>
    lines.reduce((rest, part) => (part.of === at ? max(ZERO, rest.minus(part.quantity)) : rest), quantity),
  );
}

/** Places of lines that are part of one, and more than it asks for. */
export function partsTooMany(lines: readonly SettledLine[]): number[] {
  const wanted = new Map<number, Decimal>();
  return lines.flatMap(({ quantity, of }, at) => {
    if (of === null) return [];
    const sum = (wanted.get(of) ?? ZERO).plus(quantity);
    wanted.set(of, sum);
    return sum.gt(lines[of]?.quantity ?? ZERO) ? at : [];
  });
}
