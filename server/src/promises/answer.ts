import type { LinePromiseAnswer, OrderPromiseAnswer, Waiting } from "@yosegi/contract";
import {
  arrivesBy,
  type ComponentPromise,
  compareDays,
  type Day,
  type LinePromise,
  later,
  quantityFromScaled,
} from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import type { Promises } from "./promises.ts";

/** When a line could leave, and all that it waits for; what takes nothing from stock, as work does, waits for nothing. */
export const promiseAnswer = (
  ctx: Reading,
  promises: Promises,
  line: LinePromise | undefined,
): LinePromiseAnswer => ({
  day: line ? line.day : ctx.today,
  waitsFor: line?.components.flatMap((component) => waitsFor(ctx, promises, component)) ?? [],
});

function waitsFor(
  ctx: Reading,
  { factsOf }: Promises,
  { item, claims, uncovered, first }: ComponentPromise,
): Waiting[] {
  const { brief, coming, offer } = factsOf(item);
  const onItsWay = claims.map(({ key, quantity, day, overdue }): Waiting => {
    const from = coming.find((one) => one.key === key);
    const document =
      from &&
      (from.build === null
        ? from.purchase === null
          ? null
          : { kind: "purchase" as const, id: from.purchase, number: from.document }
        : { kind: "build" as const, id: from.build, number: from.document });
    return {
      item: brief,
      quantity: quantity.toFixed(),
      day,
      how: "on its way",
      document: document ?? null,
      overdue,
    };
  });
  if (uncovered.eq(0)) return onItsWay;
  const day = first ? first.finish : offer && arrivesBy(ctx.today, offer);
  const how = first ? "to build" : offer && day !== null ? "to order" : "unknown";
  return [
    ...onItsWay,
    { item: brief, quantity: uncovered.toFixed(), day, how, document: null, overdue: false },
  ];
}

/** When a whole order could leave, which of its lines is last, and who has stock of what that waits for. */
export function orderPromise(
  ctx: Reading,
  promises: Promises,
  own: readonly (LinePromise | undefined)[],
  due: Day | null,
): OrderPromiseAnswer {
  const day = own.map((line) => (line ? line.day : ctx.today)).reduce(later, ctx.today);
  const line = own.findIndex((one) => one?.components.some(isWaiting) && one.day === day);
  return {
    day,
    complete: due === null ? null : day !== null && day <= due,
    heldBy: line === -1 ? null : holding(ctx, promises, own, line),
  };
}

const isWaiting = ({ claims, uncovered }: ComponentPromise): boolean => claims.length > 0 || uncovered.gt(0);

function holding(
  ctx: Reading,
  promises: Promises,
  own: readonly (LinePromise | undefined)[],
  line: number,
): OrderPromiseAnswer["heldBy"] {
  const components = own[line]?.components.filter(isWaiting) ?? [];
  const [last] = components.sort((a, b) => compareDays(b.day, a.day));
  if (!last) return null;
  const [waiting] = waitsFor(ctx, promises, last).sort((a, b) => compareDays(b.day, a.day));
  if (!waiting) return null;
  const ids = new Set(own.map((one) => one?.line));
  const before = promises.lines.slice(
    0,
    promises.lines.findIndex((one) => ids.has(one.line)),
  );
  const stockFor = before.flatMap(({ order, components: asks }, i) => {
    const at = asks.findIndex((ask) => ask.item === last.item);
    const ready = promises.promises[i]?.components[at]?.standing.ready ?? 0;
    return ready === 0
      ? []
      : {
          id: order.order,
          number: order.number,
          customer: order.customer,
          quantity: quantityFromScaled(ready).toFixed(),
        };
  });
  return { line, waitsFor: waiting, stockFor: stockFor.slice(0, MOST_NAMED) };
}

/** So many orders are enough to choose from. */
const MOST_NAMED = 5;
