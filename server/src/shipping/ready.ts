import type { AnswerOf, routes } from "@yosegi/contract";
import { groupBy, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { isLineOpen, type Line, linesOf, openOrders, setsOpen, setsReadyOf } from "../orders/index.ts";

type Answer = AnswerOf<typeof routes.readyToShip>;

/** Open orders that can leave complete today, and why the others can't; both by due day. */
export async function readyToShip(ctx: Reading): Promise<Answer> {
  const orders = await openOrders(ctx);
  const lines = groupBy(
    await linesOf(
      ctx,
      orders.map((order) => order.id),
    ),
    (line) => line.order,
  );
  const held = await ctx.sql.all<{ id: number }>("SELECT id FROM firm_head WHERE on_hold = 1");
  const onHold = new Set(held.map((firm) => firm.id));
  const found = orders.map((order) => {
    const open = (lines.get(order.id) ?? []).filter(isLineOpen);
    return { order, open, why: reasonToWait(open, onHold.has(order.customer_id)) };
  });
  const ready = found.filter(({ why }) => why === null);
  const brief = await briefs(
    ctx,
    ready.flatMap(({ open }) => open.map((line) => line.item)),
  );
  const head = ({ order }: (typeof found)[number]) => ({
    id: order.id,
    number: order.number,
    customer: { id: order.customer_id, code: order.code, name: order.name },
    due: order.due,
    overdue: order.due !== null && order.due < ctx.today,
    reference: order.reference,
  });
  return {
    ready: ready.map((own) => ({
      ...head(own),
      version: own.order.version,
      leaves: own.open.map((line) => ({
        line: line.id,
        item: brief(line.item),
        quantity: setsOpen(line).toFixed(),
      })),
    })),
    waiting: found.flatMap((own) => (own.why === null ? [] : [{ ...head(own), ...own.why }])),
  };
}

type Reason = Pick<Answer["waiting"][number], "why" | "short" | "readyInPart">;

/** Why an order can't leave complete today; null where it can. */
function reasonToWait(open: readonly Line[], isOnHold: boolean): Reason | null {
  const short = open.filter(({ components }) => components.some((own) => own.ready < own.open));
  const readyInPart = short.length < open.length || short.some((line) => setsReadyOf(line).gt(0));
  const reason = (why: Reason["why"]): Reason => ({ why, short: short.length, readyInPart });
  if (short.length > 0) {
    const onItsWay = short.every(({ components }) => components.every((own) => own.missing <= 0));
    return reason(onItsWay ? "on its way" : "short");
  }
  if (open.some((line) => line.price === null)) return reason("price missing");
  return isOnHold ? reason("customer on hold") : null;
}
