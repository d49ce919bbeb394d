import { compareDays, type Day } from "../amounts/index.ts";

/** What says when an order's turn comes. */
export interface OrderTurn {
  /** 1 is served first; null: no precedence was given. */
  precedence: number | null;
  /** The wanted date. */
  due: Day | null;
  /** The order's number counted up; that of an order which is not saved yet is higher than any. */
  order: number;
}

/** After every precedence that can be given. */
const NO_PRECEDENCE = Number.MAX_SAFE_INTEGER;

/** The order in which customers' orders are served: by precedence, none last; by wanted date, undated last; by number (docs/rules.md § 11). */
export function compareTurns(a: OrderTurn, b: OrderTurn): number {
  return (
    (a.precedence ?? NO_PRECEDENCE) - (b.precedence ?? NO_PRECEDENCE) ||
    compareDays(a.due, b.due) ||
    a.order - b.order
  );
}
