import { type Day, type Decimal, sum } from "../amounts/index.ts";
import {
  expired,
  type Movement,
  type PickableStock,
  quantityOf,
  type StockPick,
  take,
} from "../stock/index.ts";

/** What of a line is to leave of one item. */
export interface LeavingComponent {
  line: number;
  item: number;
  quantity: Decimal;
  /** Lots or serials that the person chose; empty: the suggested order. */
  only: readonly string[];
  /** Id of the location that is emptied first, where what is packed for the order lies; left out for none. */
  store?: number | null;
}

/** A component with the stock it takes. */
export interface PickedComponent extends LeavingComponent {
  /** With a value where that is known beforehand, as of what a supplier delivered; else its pool says it. */
  taken: (StockPick & { value?: Decimal })[];
  /** What of it there is no stock for. */
  short: Decimal;
}

/**
 * Takes what is to leave from stock that lies ready, in the order given: lots and serials that were chosen first for whom they were chosen,
 * then the suggested ones (docs/rules.md § 8), never expired. A chosen one is taken by no other line.
 */
export function pickLeaving(
  leaving: readonly LeavingComponent[],
  ready: readonly PickableStock[],
  day: Day,
): PickedComponent[] {
  const left = new Map<number, PickableStock[]>(leaving.map(({ item }) => [item, []]));
  for (const balance of ready) left.get(balance.item)?.push({ ...balance });
  const takeOf = (component: LeavingComponent) => take(left.get(component.item) ?? [], component, day);
  const chosen = leaving.map((component) => (component.only.length > 0 ? takeOf(component) : null));
  return leaving.map((component, i) => {
    const taken = chosen[i] ?? takeOf(component);
    return { ...component, taken, short: component.quantity.minus(quantityOf(taken)) };
  });
}

/** What of the stock named is there though its lot has expired. */
export const expiredOf = (
  ready: readonly PickableStock[],
  { item, only }: Pick<LeavingComponent, "item" | "only">,
  day: Day,
): Decimal =>
  sum(
    ready
      .filter((b) => b.item === item && (only.length === 0 || only.includes(b.lot)) && expired(b.expiry, day))
      .map((b) => b.quantity),
  );

/** The movements by which picked components of an order leave. */
export const shipmentMovements = (order: number, picked: readonly PickedComponent[]): Movement[] =>
  picked.flatMap(({ line, taken }) =>
    taken.map((pick) => ({
      ...pick,
      purpose: "shipped" as const,
      source: { document: "order" as const, id: order, line },
      to: null,
      value: pick.value ?? null,
    })),
  );
