import { type AnswerOf, type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import { isOpen, quantityFromScaled } from "@yosegi/core";
import { buildById } from "../builds/index.ts";
import type { Reading, Writing } from "../db/index.ts";
import { itemById } from "../items/index.ts";
import { linesOf, ordersById } from "./rows.ts";
import { changeOrder, savedBody, type WrittenOrder } from "./service.ts";

type Offers = AnswerOf<typeof routes.ordersToFollow>["offers"];

/**
 * How orders could follow a build that is for them: to its day where it is done after they are wanted, and to what it gives where that
 * is less than it was linked for and nothing else gives the rest. Nothing is changed silently.
 */
export async function ordersToFollow(ctx: Reading, id: number): Promise<Offers> {
  const build = await buildById(ctx, id);
  if (!isOpen(build.stage)) return [];
  const linked = await ctx.sql.all<{ line: number; order: number; quantity: number }>(
    `SELECT a.line_id AS line, l.order_id AS "order", a.quantity FROM allocated_order a JOIN order_line_head l ON l.line_id = a.line_id
      WHERE a.build_id = $id ORDER BY a.line_id`,
    { id },
  );
  const orders = await ordersById(
    ctx,
    linked.map((row) => row.order),
  );
  const lines = await linesOf(
    ctx,
    orders.map((order) => order.id),
  );
  const { unit } = await itemById(ctx, build.product_id);
  return linked.flatMap(({ line: lineId, order: orderId, quantity: linkedFor }): Offers => {
    const order = orders.find((one) => one.id === orderId);
    const line = lines.find((one) => one.id === lineId);
    if (!order || !line) return [];
    const component = line.components.find(({ item }) => item === build.product_id && item === line.item);
    const own = component?.builds.find((one) => one.build.id === id);
    // What the build was linked for and does not give any more, as far as nothing else gives it.
    const lost = own ? linkedFor - own.made - own.coming - own.planned : 0;
    const lacking = component ? Math.min(lost, component.missing - component.planned) : 0;
    const whole = quantityFromScaled(line.quantity);
    const quantity =
      lacking > 0 && lacking < line.quantity
        ? { from: whole.toFixed(), to: whole.minus(quantityFromScaled(lacking)).toFixed(), unit }
        : null;
    const isLate = build.due !== null && order.due !== null && build.due > order.due;
    const due = isLate && build.due ? { from: order.due, to: build.due } : null;
    if (!quantity && !due) return [];
    return [{ id: order.id, number: order.number, version: order.version, line: line.id, quantity, due }];
  });
}

/** Changes an order as a build that is for it offers; the rest of it stays as it is. */
export async function followBuild(
  ctx: Writing,
  order: Parameters<typeof savedBody>[1],
  line: number,
  { quantity, due }: ParsedBody<typeof routes.followBuild>,
): Promise<WrittenOrder> {
  const body = await savedBody(ctx, order);
  if (!body.lines.some((own) => own.id === line))
    throw new Refusal("not-found", { what: `line of ${order.number}`, id: line });
  return changeOrder(ctx, order.id, {
    ...body,
    due: due ?? body.due,
    lines: body.lines.map((own) => (own.id === line && quantity ? { ...own, quantity } : own)),
  });
}
