import { Refusal } from "@yosegi/contract";
import { type OrderStage, orderStageOf } from "@yosegi/core";
import { dropLinks, trimLinks } from "../allocations/index.ts";
import { asJson, countChange, type Writing } from "../db/index.ts";
import { putBackPacked } from "./packing.ts";
import {
  directDeliveries,
  hasLeft,
  isLineOpen,
  type OrderedLine,
  type OrderTableRow,
  orderById,
  orderedLines,
  refuseNotOpen,
} from "./rows.ts";
import { SALES_LINE, SALES_ORDER } from "./tables.ts";

// What became of what was ordered: what left, what was closed, and the stage that follows from both.

/** So much of a line that left now, or came back into its order; of a component, or of a line that takes nothing from stock. */
export interface LeftNow {
  line: number;
  /** null: the line itself. */
  item: number | null;
  /** In whole millionths; below zero where a shipment is undone. */
  quantity: number;
  /** Of that, what was packed. */
  packed: number;
}

/** Books what left of an order, which is open for so much less; its stage follows. */
export async function bookLeft(ctx: Writing, order: number, left: readonly LeftNow[]): Promise<void> {
  const rows = asJson(left);
  await ctx.sql.run(
    `UPDATE order_component SET shipped = shipped + (r.value ->> 'quantity'), open = open - (r.value ->> 'quantity'),
            packed = packed - (r.value ->> 'packed')
       FROM json_each($rows) r WHERE line_id = r.value ->> 'line' AND item_id = r.value ->> 'item'`,
    { rows },
  );
  await ctx.sql.run(
    `UPDATE sales_line SET shipped = shipped + (r.value ->> 'quantity')
       FROM json_each($rows) r WHERE sales_line.id = r.value ->> 'line' AND r.value ->> 'item' IS NULL`,
    { rows },
  );
  if (!(await settleOrder(ctx, order))) await countChange(ctx, SALES_ORDER, order);
}

/** Closes what is still open of lines of an order, or of all: it reserves nothing more, and the order ends where nothing else is open. */
export async function closeRest(ctx: Writing, id: number, named: readonly number[]): Promise<void> {
  const order = await orderById(ctx, id);
  refuseNotOpen(order);
  const lines = await openLinesOf(ctx, order, named);
  const closing = (await orderedLines(ctx, [id])).filter((line) => lines.includes(line.id));
  await refuseAtSupplier(ctx, closing);
  const bind = { lines: asJson(lines) };
  await ctx.sql.run(
    "UPDATE order_component SET closed = closed + open, open = 0 WHERE line_id IN (SELECT value FROM json_each($lines))",
    bind,
  );
  await ctx.sql.run(
    `UPDATE sales_line SET closed = quantity - shipped
      WHERE id IN (SELECT value FROM json_each($lines)) AND id NOT IN (SELECT line_id FROM order_component)`,
    bind,
  );
  await trimLinks(ctx, lines);
  await putBackPacked(ctx, order);
  await ctx.model(SALES_ORDER).update({ closed_by: ctx.person.id, closed_at: ctx.moment }, { where: { id } });
  await settleOrder(ctx, id);
}

/** Refuses to give up lines that a supplier is to deliver: that is cancelled there first. */
export async function refuseAtSupplier(ctx: Writing, lines: readonly OrderedLine[]): Promise<void> {
  const direct = lines.filter((line) => line.bySupplier).map((line) => line.id);
  if (direct.length === 0) return;
  const [first] = await directDeliveries(ctx, direct);
  if (first) throw new Refusal("line-at-supplier", { number: first.number });
}

/** The lines named of an order, or all, of which something is open. */
async function openLinesOf(ctx: Writing, order: OrderTableRow, named: readonly number[]): Promise<number[]> {
  const lines = await orderedLines(ctx, [order.id]);
  const own = new Map(lines.map((line) => [line.id, line]));
  for (const [i, line] of named.entries())
    if (!own.has(line))
      throw Refusal.at(`lines.${i}`, "not-found", { what: `line of ${order.number}`, id: line });
  const open = lines.filter((line) => isLineOpen(line) && (named.length === 0 || named.includes(line.id)));
  if (open.length === 0) throw new Refusal("nothing-open", { number: order.number });
  return open.map((line) => line.id);
}

/** Opens again what was closed of an order, which reserves it anew. */
export async function reopenRest(ctx: Writing, id: number): Promise<void> {
  const { number, stage } = await orderById(ctx, id);
  const lines = await orderedLines(ctx, [id]);
  const isClosed = (line: OrderedLine) => line.closed > 0 || line.components.some((own) => own.closed > 0);
  if (stage === "cancelled" || !lines.some(isClosed)) throw new Refusal("nothing-closed", { number });
  await ctx.sql.run(
    "UPDATE order_component SET open = open + closed, closed = 0 WHERE line_id IN (SELECT id FROM sales_line WHERE order_id = $id)",
    { id },
  );
  await ctx.model(SALES_LINE).update({ closed: 0 }, { where: { order_id: id } });
  await ctx.model(SALES_ORDER).update({ closed_by: null, closed_at: null }, { where: { id } });
  await settleOrder(ctx, id);
}

/** Cancels an order of which nothing left, or a quote: what it reserved is free, and no build works for it any more. */
export async function cancelOrder(ctx: Writing, order: OrderTableRow): Promise<void> {
  const { id, number } = order;
  const lines = await orderedLines(ctx, [id]);
  if (lines.some(hasLeft)) throw new Refusal("order-part-shipped", { number });
  await refuseAtSupplier(ctx, lines);
  const ids = lines.map((line) => line.id);
  const bind = { lines: asJson(ids) };
  // Of a quote nothing is open, and all of it is closed too.
  await ctx.sql.run(
    `UPDATE order_component SET open = 0, closed = order_component.per * l.quantity / 1000000
       FROM sales_line l WHERE l.id = order_component.line_id AND l.id IN (SELECT value FROM json_each($lines))`,
    bind,
  );
  await ctx.sql.run(
    "UPDATE sales_line SET closed = quantity WHERE id IN (SELECT value FROM json_each($lines))",
    bind,
  );
  await dropLinks(ctx, ids);
  await putBackPacked(ctx, order);
  await ctx
    .model(SALES_ORDER)
    .update({ stage: "cancelled", cancelled_by: ctx.person.id, cancelled_at: ctx.moment }, { where: { id } });
}

/** The stage of an order follows from what left of it and what is still open. Says whether it is another now. */
export async function settleOrder(ctx: Writing, id: number): Promise<boolean> {
  const row = await ctx.sql.one<{ stage: OrderStage; left: number; open: number }>(
    `SELECT o.stage, COALESCE(MAX(CASE WHEN t.id IS NULL THEN l.shipped ELSE t.shipped END > 0), 0) AS left,
            COALESCE(MAX(CASE WHEN t.id IS NULL THEN l.quantity - l.shipped - l.closed ELSE t.open END > 0), 0) AS open
       FROM sales_order o JOIN sales_line l ON l.order_id = o.id LEFT JOIN order_component t ON t.line_id = l.id WHERE o.id = $id`,
    { id },
  );
  const stage = orderStageOf({ left: row?.left === 1, open: row?.open === 1 });
  if (stage === row?.stage) return false;
  const ended = stage === "cancelled" ? { cancelled_by: ctx.person.id, cancelled_at: ctx.moment } : {};
  await ctx.model(SALES_ORDER).update({ stage, ...ended }, { where: { id } });
  return true;
}
