import type { OrderRow } from "@yosegi/contract";
import { type Day, isOpenOrder } from "@yosegi/core";
import { standingsOf } from "../allocations/index.ts";
import { asJson, findPage, groupBy, type PageQuery, type Reading } from "../db/index.ts";
import {
  type Component,
  isLapsed,
  isLineOpen,
  type Line,
  linesOf,
  OPEN,
  ORDER,
  type OrderTableRow,
  setsReadyOf,
} from "./rows.ts";

const isReady = ({ ready, open }: Pick<Component, "ready" | "open">) => ready === open;

/** A page of customers' orders: open ones by wanted day, undated last; then quotes, by the day until which they are valid; then what was shipped or cancelled, latest first. */
export async function findOrders(
  ctx: Reading,
  query: PageQuery & { state?: "overdue" | "short" | undefined },
): Promise<{ orders: OrderRow[]; total: number; next: string | null }> {
  const { state } = query;
  const named = state === undefined ? [] : await (state === "short" ? shortOrders(ctx) : overdueOrders(ctx));
  const { ids, total, next } = await findPage(ctx.sql, query, {
    id: "o.id",
    text: "o.number || ' ' || f.code || ' ' || f.name || ' ' || o.reference",
    bind: { all: state === undefined ? 1 : 0, named: asJson(named) },
    from: `sales_order o JOIN firm_head f ON f.id = o.customer_id
      WHERE $all = 1 OR o.id IN (SELECT value FROM json_each($named))
      ORDER BY CASE WHEN o.stage IN (${OPEN}) THEN 0 WHEN o.stage = 'quote' THEN 1 WHEN o.stage = 'shipped' THEN 2 ELSE 3 END,
               o.cancelled_at DESC, CASE o.stage WHEN 'shipped' THEN -o.id WHEN 'quote' THEN o.valid_until END,
               o.due IS NULL, o.due, CASE o.stage WHEN 'cancelled' THEN -o.id ELSE o.id END`,
  });
  const orders = await ctx.sql.all<OrderTableRow>(
    `${ORDER} JOIN json_each($ids) ids ON ids.value = o.id ORDER BY ids.key`,
    { ids: asJson(ids) },
  );
  const standings = await lineStandings(
    ctx,
    orders.filter((order) => isOpenOrder(order.stage)).map((order) => order.id),
  );
  return {
    orders: orders.map((order) => rowOf(order, standings.get(order.id) ?? NO_LINES, ctx.today)),
    total,
    next,
  };
}

/** How many lines of an order are open, and of how many all is in stock, some is, or something is missing. */
export interface LineCounts {
  lines: number;
  ready: number;
  readyInPart: number;
  missing: number;
}

const NO_LINES: LineCounts = { lines: 0, ready: 0, readyInPart: 0, missing: 0 };

async function lineStandings(ctx: Reading, orders: readonly number[]): Promise<Map<number, LineCounts>> {
  const lines = groupBy(await linesOf(ctx, orders), (line) => line.order);
  return new Map([...lines].map(([order, own]) => [order, countsOf(own)]));
}

export function countsOf(all: readonly Line[]): LineCounts {
  const lines = all.filter(isLineOpen);
  const ready = lines.filter(({ components }) => components.every(isReady));
  const sets = lines.filter((line) => setsReadyOf(line).gt(0));
  return {
    lines: lines.length,
    ready: ready.length,
    readyInPart: new Set([...ready, ...sets]).size - ready.length,
    missing: lines.filter(({ components }) => components.some((c) => c.missing > 0)).length,
  };
}

export function rowOf(
  order: OrderTableRow,
  { lines, ready, readyInPart, missing }: LineCounts,
  today: Day,
): OrderRow {
  const open = isOpenOrder(order.stage);
  return {
    id: order.id,
    number: order.number,
    customer: { id: order.customer_id, code: order.code, name: order.name },
    stage: order.stage,
    due: order.due,
    validUntil: order.valid_until,
    lapsed: isLapsed(order, today),
    reference: order.reference,
    lines: open ? lines : order.lines,
    linesReady: open ? ready : 0,
    linesReadyInPart: open ? readyInPart : 0,
    linesMissing: open ? missing : 0,
    overdue: open && order.due !== null && order.due < today,
    made: order.created_at,
  };
}

/** How many orders are open, are overdue, miss something that is not coming either, and have something to be fetched. */
export async function orderCounts(
  ctx: Reading,
): Promise<Record<"orders" | "ordersOverdue" | "ordersMissing" | "ordersToPick", number>> {
  const open = await ctx.sql.one<{ orders: number }>(
    `SELECT COUNT(*) AS orders FROM sales_order WHERE stage IN (${OPEN})`,
  );
  const overdue = await overdueOrders(ctx);
  const standings = await openStandings(ctx);
  const countWhere = (of: (standing: (typeof standings)[number]) => boolean) =>
    new Set(standings.filter(of).map((standing) => standing.order)).size;
  return {
    orders: open?.orders ?? 0,
    ordersOverdue: overdue.length,
    ordersMissing: countWhere((standing) => standing.missing > 0),
    ordersToPick: countWhere((standing) => standing.ready > 0),
  };
}

async function overdueOrders(ctx: Reading): Promise<number[]> {
  const rows = await ctx.sql.all<{ id: number }>(
    `SELECT id FROM sales_order WHERE stage IN (${OPEN}) AND due < $today`,
    { today: ctx.today },
  );
  return rows.map((row) => row.id);
}

/** Orders of which something is missing that is not on its way either. */
const shortOrders = async (ctx: Reading): Promise<number[]> => [
  ...new Set((await openStandings(ctx)).filter(({ missing }) => missing > 0).map(({ order }) => order)),
];

/** How all open lines of orders stand. */
async function openStandings(ctx: Reading) {
  const items = await ctx.sql.all<{ item: number }>(
    "SELECT DISTINCT item_id AS item FROM reserved WHERE line_id IS NOT NULL",
  );
  return standingsOf(
    ctx,
    items.map((row) => row.item),
  );
}
