import { type Decimal, divideRounded, split, sum, ZERO } from "../amounts/index.ts";
import { type LeftOfLine, revenueSoFar, type SoldLine } from "../shipping/index.ts";

/** What shipments of a line counted, and what earlier returns of it credited. */
export interface CountedOfLine {
  revenue: Decimal;
  credited: Decimal;
}

/**
 * What a customer is credited for what comes back of a line: what was paid for it so far, less what the rest that they keep comes to, less what earlier
 * returns credited (docs/rules.md § 12). A price that was changed since the shipment changes nothing of what was paid.
 */
export function creditFor(
  line: SoldLine,
  shipped: LeftOfLine,
  kept: LeftOfLine,
  { revenue, credited }: CountedOfLine,
  currencyDecimals: number,
): Decimal {
  const all = revenueSoFar(line, shipped, currencyDecimals);
  const rest = revenueSoFar(line, kept, currencyDecimals);
  const paidForRest = all.eq(0) ? ZERO : divideRounded(revenue.times(rest), all, currencyDecimals);
  return revenue.minus(paidForRest).minus(credited);
}

/**
 * The credit of a line shared over the pieces that came back, by what each brought when it was shipped; equally by quantity where none brought anything.
 */
export function shareCredit(
  credit: Decimal,
  pieces: readonly { brought: Decimal; quantity: Decimal }[],
  currencyDecimals: number,
): Decimal[] {
  const known = pieces.some(({ brought }) => brought.gt(0));
  const weights = pieces.map(({ brought, quantity }) => (known ? brought : quantity));
  if (credit.gte(0)) return split(credit, weights, currencyDecimals);
  return split(credit.neg(), weights, currencyDecimals).map((share) => share.neg());
}

/** What is due: the credits less what is taken off them, such as a restocking fee; never below zero. */
export function creditDue(credits: readonly Decimal[], off: Decimal): Decimal {
  const due = sum(credits).minus(off);
  return due.lt(0) ? ZERO : due;
}
