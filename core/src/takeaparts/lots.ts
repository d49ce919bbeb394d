import { type Decimal, min, ZERO } from "../amounts/index.ts";

/** So much of a part is expected of each lot that the build used, the most used first; what no lot accounts for has none. */
export function expectedOfLots(
  expected: Decimal,
  used: readonly { lot: string; quantity: Decimal }[],
): { lot: string; quantity: Decimal }[] {
  let rest = expected;
  const found: { lot: string; quantity: Decimal }[] = [];
  for (const { lot, quantity } of [...used].sort((a, b) => b.quantity.cmp(a.quantity))) {
    const taken = min(rest, quantity);
    if (taken.gt(ZERO)) found.push({ lot, quantity: taken });
    rest = rest.minus(taken);
  }
  return rest.gt(ZERO) ? [...found, { lot: "", quantity: rest }] : found;
}
