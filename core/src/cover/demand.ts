import { addDays, compareDays, type Day, type Decimal, max, min, ZERO } from "../amounts/index.ts";
import type { Offer, OnDraft } from "../buying/index.ts";
import { type PartsList, type Progress, startFor } from "../lists/index.ts";
import { free, type StockFigures } from "../stock/index.ts";

/** So many of a product, or sets of a kit, that are wanted. */
export interface Demand {
  /** Its own name among the demands asked together. */
  key: number;
  item: number;
  /** Good units, above zero. */
  quantity: Decimal;
  /** The day it is wanted; null where there is none. */
  day: Day | null;
  /** 1 is served first among demands of one day. */
  priority: number;
  list: PartsList;
  /** Calendar days that a build takes. */
  buildDays: number;
  /** Of a build that is queued already: only its rest is asked for. */
  progress?: Progress | null;
}

/** Units to start so that as many come out good; of a build that is queued, no more than it has left. */
export function unitsFor({
  list,
  quantity,
  progress,
}: Pick<Demand, "list" | "quantity" | "progress">): Decimal {
  const started = startFor(list, quantity);
  return progress ? min(started, progress.units.minus(progress.done)) : started;
}

/** What is on its way: the open rest of a purchase order's line or of a build. */
export interface Incoming {
  /** Its own name among all that comes. */
  key: string;
  quantity: Decimal;
  /** The day it is expected; null where nobody said one. */
  day: Day | null;
}

/** Everything that covers the need of one item. */
export interface Supply {
  stock: StockFigures;
  incoming: readonly Incoming[];
  drafts: readonly OnDraft[];
  /** The supplier it is bought from; null where there is none. */
  offer: Offer | null;
  /** null where it has no parts list. */
  recipe: Recipe | null;
}

/** How an item is built. */
export interface Recipe {
  /** The list in force on the day its build starts (docs/rules.md § 2). */
  listOn: (day: Day) => PartsList | null;
  buildDays: number;
}

/** The order in which demands are served: by day, undated last, then priority, then entry (docs/rules.md § 4). */
export function inTurn<D extends Pick<Demand, "day" | "priority">>(demands: readonly D[]): D[] {
  // sorting is stable, so equals stay in the order of entry
  return [...demands].sort((a, b) => compareDays(a.day, b.day) || a.priority - b.priority);
}

/** When parts must be there: build days before the wanted day; null where no day is wanted. */
export const startDay = ({ day, buildDays }: Pick<Demand, "day" | "buildDays">): Day | null =>
  day === null ? null : addDays(day, -buildDays);

/** The later of two days; null is unknown, and so is anything that waits for it. */
export function later(a: Day | null, b: Day | null): Day | null {
  if (a === null || b === null) return null;
  return a > b ? a : b;
}

/** A part of what is on its way, given to one demand. */
export interface Claim {
  key: string;
  quantity: Decimal;
  /** The day it counts for: what is overdue counts as today. */
  day: Day | null;
  overdue: boolean;
}

/** What one demand was given of one item. */
export interface Given {
  /** What was free when its turn came; may be below zero. */
  free: Decimal;
  fromFree: Decimal;
  claims: Claim[];
  /** What neither free stock nor anything on its way covers. */
  uncovered: Decimal;
}

interface Left {
  free: Decimal;
  /** Place of the first that comes which is not given away: thousands of demands are served one after the other. */
  next: number;
  incoming: { key: string; quantity: Decimal; day: Day | null; overdue: boolean }[];
}

/** What is left to give of each item while demands are served in turn. What is given counts for nobody later. */
export class SupplyPool {
  readonly #left = new Map<number, Left>();
  readonly #supplyOf: (item: number) => Supply;
  readonly #today: Day;

  constructor(supplyOf: (item: number) => Supply, today: Day) {
    this.#supplyOf = supplyOf;
    this.#today = today;
  }

  #of(item: number): Left {
    const known = this.#left.get(item);
    if (known) return known;
    const { stock, incoming } = this.#supplyOf(item);
    const left: Left = {
      free: free(stock),
      next: 0,
      incoming: incoming
        .map(({ key, quantity, day }) => {
          const overdue = day !== null && day < this.#today;
          return { key, quantity, overdue, day: overdue ? this.#today : day };
        })
        .sort((a, b) => compareDays(a.day, b.day)),
    };
    this.#left.set(item, left);
    return left;
  }

  /** What is free of an item after all that was given; may be below zero. */
  free(item: number): Decimal {
    return this.#of(item).free;
  }

  /** What of an item still comes until a day, inclusive, one by one; all that comes where the day is null. */
  comingUntil(item: number, day: Day | null): Decimal[] {
    const { incoming, next } = this.#of(item);
    return incoming
      .slice(next)
      .flatMap((i) => (day === null || (i.day !== null && i.day <= day) ? i.quantity : []));
  }

  /**
   * Covers a need of an item: first from free stock, then from what comes, by day. A gap that was there before is filled
   * by the first that asks, so it takes that much more of what comes.
   */
  allocate(item: number, need: Decimal): Given {
    const left = this.#of(item);
    const before = left.free;
    if (need.lte(0)) return { free: before, fromFree: ZERO, claims: [], uncovered: ZERO };
    const fromFree = min(need, max(ZERO, before));
    left.free = max(ZERO, before.minus(need));
    let rest = max(ZERO, need.minus(before));
    const claims: Claim[] = [];
    while (left.next < left.incoming.length && rest.gt(0)) {
      const incoming = left.incoming[left.next];
      if (!incoming) break;
      const quantity = min(rest, incoming.quantity);
      incoming.quantity = incoming.quantity.minus(quantity);
      rest = rest.minus(quantity);
      if (incoming.quantity.eq(0)) left.next++;
      if (quantity.gt(0))
        claims.push({ key: incoming.key, quantity, day: incoming.day, overdue: incoming.overdue });
    }
    return { free: before, fromFree, claims, uncovered: rest };
  }
}
