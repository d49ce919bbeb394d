import { type Decimal, divideDown, step, sum, ZERO } from "./decimal.ts";

/**
 * Splits an amount by weights so that the shares add up to it exactly: every share is cut, and what is left goes
 * by the largest remainder, on a tie to the earlier share (docs/rules.md § 1). Where all weights are zero,
 * the shares are equal. The amount may not be negative and has at most `decimals` decimals.
 */
export function split(amount: Decimal, weights: readonly Decimal[], decimals: number): Decimal[] {
  if (weights.length === 0) return [];
  if (weights.some((weight) => weight.lt(0))) throw new RangeError("A weight is never negative");
  const total = sum(weights);
  if (total.eq(0))
    return split(
      amount,
      weights.map(() => step(0)),
      decimals,
    );
  const cut = weights.map((weight) => divideDown(amount.times(weight), total, decimals));
  const remainders = weights.map((weight, i) => amount.times(weight).minus((cut[i] ?? ZERO).times(total)));
  const order = remainders.map((_, i) => i).sort((a, b) => compare(remainders[b], remainders[a]) || a - b);
  let steps = amount.minus(sum(cut)).div(step(decimals)).toNumber();
  for (const i of order) {
    if (steps <= 0) break;
    cut[i] = (cut[i] ?? ZERO).plus(step(decimals));
    steps--;
  }
  return cut;
}

function compare(a: Decimal | undefined, b: Decimal | undefined): number {
  return (a ?? ZERO).cmp(b ?? ZERO);
}
