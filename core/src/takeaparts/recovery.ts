import {
  type Decimal,
  divideRounded,
  MONEY_DECIMALS,
  min,
  type Rate,
  split,
  sum,
  valueAt,
  ZERO,
} from "../amounts/index.ts";

/** A part of what is taken apart, with what became of it. Quantities are in its stock unit. */
export interface TakenOutPart {
  /** good + damaged + missing. */
  expected: Decimal;
  good: Decimal;
  damaged: Decimal;
  missing: Decimal;
  /** Percent of the value that the list lets it take back; null where the list sets none. */
  share: Decimal | null;
  /** Current unit cost; null where there is none. */
  unitCost: Rate | null;
}

export interface RecoveredPart {
  /** Of the value out, what is this part's. */
  allotted: Decimal;
  /** What comes back to stock with its good ones. */
  recovered: Decimal;
  /** What is lost with the others. */
  damaged: Decimal;
  missing: Decimal;
}

export interface Recovery {
  parts: RecoveredPart[];
  recovered: Decimal;
  damaged: Decimal;
  missing: Decimal;
  /** What the product carried above what its parts cost. */
  workPutIn: Decimal;
}

/**
 * Where the value of what is taken apart lands (docs/rules.md § 17): value out = recovered + damaged + missing + work put in, to the last digit.
 */
export function recover(valueOut: Decimal, parts: readonly TakenOutPart[]): Recovery {
  const { weights, shared } = weightsOf(valueOut, parts);
  const allotted = parts.length === 0 ? [] : split(shared, weights, MONEY_DECIMALS);
  const found = parts.map((part, i) => landing(allotted[i] ?? ZERO, part));
  const total = (of: keyof RecoveredPart) => sum(found.map((part) => part[of]));
  return {
    parts: found,
    recovered: total("recovered"),
    damaged: total("damaged"),
    missing: total("missing"),
    workPutIn: valueOut.minus(total("allotted")),
  };
}

/** By what the value is shared out, and how much of it: all by the list's shares; else at most what the parts cost. */
function weightsOf(
  valueOut: Decimal,
  parts: readonly TakenOutPart[],
): { weights: Decimal[]; shared: Decimal } {
  if (parts.length === 0) return { weights: [], shared: ZERO };
  if (parts.some(({ share }) => share !== null))
    return { weights: parts.map(({ share }) => share ?? ZERO), shared: valueOut };
  const costs = parts.map(({ expected, unitCost }) => (unitCost ? valueAt(expected, unitCost) : ZERO));
  if (costs.every((cost) => cost.eq(0)))
    return { weights: parts.map(({ expected }) => expected), shared: valueOut };
  return { weights: costs, shared: min(valueOut, sum(costs)) };
}

function landing(allotted: Decimal, { expected, good, damaged, missing }: TakenOutPart): RecoveredPart {
  const recovered = expected.eq(0) ? ZERO : divideRounded(allotted.times(good), expected, MONEY_DECIMALS);
  const [toDamaged = ZERO, toMissing = ZERO] = split(
    allotted.minus(recovered),
    [damaged, missing],
    MONEY_DECIMALS,
  );
  return { allotted, recovered, damaged: toDamaged, missing: toMissing };
}
