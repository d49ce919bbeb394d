import type { MovedOrder, OrderPreview } from "@yosegi/contract";
import { createContext, useContext, useSyncExternalStore } from "react";

/** What the server says of an order while it is typed. */
export interface OrderAnswer {
  answer: OrderPreview | undefined;
  /** Why there is none, in words. */
  why: string;
  /** The place among the answer's lines of each line that is typed; a line that can't be read yet has none. */
  places: ReadonlyMap<number, number>;
  /** Other orders that would lose stock, or leave later. */
  takesFrom: readonly MovedOrder[];
}

/** The last answer. Each part of the form listens to what it shows of it, and is drawn again only where that changes: there may be 500 lines. */
export class LastAnswer {
  #now: OrderAnswer = { answer: undefined, why: "", places: new Map(), takesFrom: [] };
  readonly #listeners = new Set<() => void>();

  get now(): OrderAnswer {
    return this.#now;
  }

  set(next: OrderAnswer): void {
    this.#now = next;
    for (const listener of this.#listeners) listener();
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
}

export const AnswerContext = createContext(new LastAnswer());

/** A part of the last answer. `select` gives the same reference while that part stays as it is. */
export function useAnswer<T>(select: (last: OrderAnswer) => T): T {
  const last = useContext(AnswerContext);
  return useSyncExternalStore(last.subscribe, () => select(last.now));
}

/** What the last answer says of a line that is typed; undefined until there is one. */
export const useLineFigures = (at: number): OrderPreview["lines"][number] | undefined =>
  useAnswer(({ answer, places }) => answer?.lines[places.get(at) ?? -1]);

/** What is to be known of the customer; undefined until there is an answer. */
export const useOrderCustomer = (): OrderPreview["customer"] | undefined =>
  useAnswer(({ answer }) => answer?.customer);
