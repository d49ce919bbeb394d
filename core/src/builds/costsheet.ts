import { type Decimal, decimal, divideRounded, MONEY_DECIMALS, sum, ZERO } from "../amounts/index.ts";

/** What one finish recorded of its lines and cost; amounts as text, as they are kept and sent. */
export interface RecordedFinish {
  good: string;
  rejected: string;
  lines: readonly {
    line: number;
    planned: string;
    used: string;
    scrapped: string;
    cost: string;
    differenceCost: string;
  }[];
  cost: Record<CostKind | "total", string>;
}

export const COST_KINDS = ["parts", "work", "overhead", "extra", "subcontractor"] as const;
export type CostKind = (typeof COST_KINDS)[number];

export interface CostFigures {
  planned: Decimal;
  actual: Decimal;
  difference: Decimal;
}

export interface CostSheetLine extends CostFigures {
  line: number;
  plannedQuantity: Decimal;
  usedQuantity: Decimal;
  /** Used less planned. */
  quantityDifference: Decimal;
  scrapped: Decimal;
}

export interface BuildCost {
  good: Decimal;
  lines: CostSheetLine[];
  kinds: (CostFigures & { kind: CostKind })[];
  total: CostFigures;
  /** For show: actual total ÷ good units; null where none is good. */
  each: Decimal | null;
  /** Price less each, and in percent of the price; null where either is not known. */
  margin: { each: Decimal; percent: Decimal } | null;
}

/**
 * What a build cost over all its finishes, planned against actual, by part and by kind (docs/rules.md § 5). What was
 * planned is the actual cost less what the differences in quantity came to; `work` says which lines are work.
 */
export function buildCost(
  finishes: readonly RecordedFinish[],
  work: ReadonlySet<number>,
  price: Decimal | null,
): BuildCost {
  const numbers = [...new Set(finishes.flatMap((finish) => finish.lines.map((l) => l.line)))].sort(
    (a, b) => a - b,
  );
  const lines = numbers.map((number): CostSheetLine => {
    const own = finishes.flatMap((finish) => finish.lines.filter((l) => l.line === number));
    const of = (pick: (l: (typeof own)[number]) => string) => sum(own.map((l) => decimal(pick(l))));
    const actual = of((l) => l.cost);
    const difference = of((l) => l.differenceCost);
    const [plannedQuantity, usedQuantity] = [of((l) => l.planned), of((l) => l.used)];
    return {
      line: number,
      actual,
      difference,
      planned: actual.minus(difference),
      plannedQuantity,
      usedQuantity,
      quantityDifference: usedQuantity.minus(plannedQuantity),
      scrapped: of((l) => l.scrapped),
    };
  });
  const kinds = COST_KINDS.map((kind) => {
    const actual = sum(finishes.map((finish) => decimal(finish.cost[kind])));
    const byLine = lines.filter((l) => work.has(l.line) === (kind === "work"));
    const difference = kind === "parts" || kind === "work" ? sum(byLine.map((l) => l.difference)) : ZERO;
    return { kind, actual, difference, planned: actual.minus(difference) };
  });
  const good = sum(finishes.map((finish) => decimal(finish.good)));
  const total = {
    planned: sum(kinds.map((k) => k.planned)),
    actual: sum(kinds.map((k) => k.actual)),
    difference: sum(kinds.map((k) => k.difference)),
  };
  const each = good.gt(0) ? divideRounded(total.actual, good, MONEY_DECIMALS) : null;
  const left = each && price ? price.minus(each) : null;
  const margin =
    left && price?.gt(0) ? { each: left, percent: divideRounded(left.times(100), price, 1) } : null;
  return { good, lines, kinds, total, each, margin };
}
