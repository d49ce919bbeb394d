import type { MovedOrder } from "@yosegi/contract";
import { type Day, type LinePromise, later } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import type { OpenLine } from "./demand.ts";
import type { Promises } from "./promises.ts";

interface OrderFigures {
  order: OpenLine["order"];
  /** When all of it could leave. */
  day: Day | null;
  /** In stock or on its way, of each line and item in turn. */
  served: number[];
}

/** Other orders than the one named that have less in stock or on its way than before, or leave later. */
export const ordersThatLose = (
  ctx: Reading,
  before: Promises,
  after: Promises,
  except: number | null,
): MovedOrder[] =>
  compared(ctx, before, after, except, (was, is) => {
    const less = was.served.some((quantity, i) => (is.served[i] ?? 0) < quantity);
    return less || later(is.day, was.day) !== was.day;
  });

/** Other orders than the one named that leave on another day than before. */
export const ordersThatMove = (
  ctx: Reading,
  before: Promises,
  after: Promises,
  except: number | null,
): MovedOrder[] => compared(ctx, before, after, except, (was, is) => was.day !== is.day);

function compared(
  ctx: Reading,
  before: Promises,
  after: Promises,
  except: number | null,
  differ: (was: OrderFigures, is: OrderFigures) => boolean,
): MovedOrder[] {
  const now = figuresOf(ctx, after);
  return [...figuresOf(ctx, before)].flatMap(([id, was]) => {
    const is = now.get(id);
    if (!is || id === except || !differ(was, is)) return [];
    const { number, customer } = was.order;
    return { id, number, customer, before: was.day, after: is.day };
  });
}

function figuresOf(ctx: Reading, { lines, promises }: Promises): Map<number, OrderFigures> {
  const paired = lines.flatMap((line, i) => {
    const promise = promises[i];
    return promise ? { line, promise } : [];
  });
  const found = new Map<number, OrderFigures>();
  for (const { line, promise } of paired) {
    const { order } = line;
    const own = found.get(order.order) ?? { order, day: ctx.today, served: [] };
    own.day = later(own.day, promise.day);
    own.served.push(...servedOf(promise));
    found.set(order.order, own);
  }
  return found;
}

const servedOf = ({ components }: LinePromise): number[] =>
  components.map(({ standing }) => standing.ready + standing.coming);
