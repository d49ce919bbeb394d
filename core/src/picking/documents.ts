import type { Day, Decimal } from "../amounts/index.ts";

/** What stock is fetched for: a customer's order, or a build. Orders come before builds. */
export const PICKED_FOR = ["order", "build"] as const;
export type PickedFor = (typeof PICKED_FOR)[number];

/** A document whose goods are fetched. */
export interface PickDocument {
  kind: PickedFor;
  id: number;
  number: string;
  due: Day | null;
}

/** What of one line of a document is still to be fetched. */
export interface PickLine {
  document: PickDocument;
  /** Line of the build, or id of the order's line. */
  line: number;
  item: number;
  /** In the item's stock unit, above zero. */
  quantity: Decimal;
  /** Lots or serials that the line asks for; empty: the suggested order. */
  only: readonly string[];
  /** Id of the store that the line names; null for none. */
  store: number | null;
}

/** Whose turn it is when less was fetched than all of them want (docs/rules.md § 13): by due day, undated last, then orders before builds, then number. */
export function byPickTurn(a: PickDocument, b: PickDocument): number {
  return (
    text(a.due ?? "9999", b.due ?? "9999") ||
    PICKED_FOR.indexOf(a.kind) - PICKED_FOR.indexOf(b.kind) ||
    digits(a.number) - digits(b.number) ||
    text(a.number, b.number)
  );
}

const text = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** O-9 comes before O-10. */
const digits = (number: string): number => Number(/\d+$/.exec(number)?.[0] ?? 0);
