import { decimal, sum } from "@yosegi/core";

/** Amounts as lengths to be drawn, and how long they are together; what they come to exactly stands beside in words. */
export function lengths(amounts: readonly string[]): { each: number[]; all: number } {
  const parts = amounts.map((amount) => decimal(amount));
  return { each: parts.map((part) => part.toNumber()), all: sum(parts).toNumber() };
}

/** Amounts as heights in a chart; their exact figures stand in words beside them. */
export const heights = (amounts: readonly string[]): number[] =>
  amounts.map((amount) => decimal(amount).toNumber());
