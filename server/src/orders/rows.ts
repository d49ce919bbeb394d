import { type OrderRow, type OrderSheet, Refusal } from "@yosegi/contract";
import {
  type Day,
  type Decimal,
  dealOut,
  free,
  lineTotal,
  moneyFromWhole,
  type OrderStage,
  quantityFromWhole,
  setsReady,
  sum,
  type TakeState,
  takeState,
} from "@yosegi/core";
import { type Serving, servings } from "../builds/index.ts";
import { briefs, loadLists, placeAndPersonNames } from "../catalog/index.ts";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { stockFigures } from "../ledger/index.ts";

export interface OrderTableRow {
  id: number;
  number: string;
  customer_id: number;
  code: string;
  name: string;
  stage: OrderStage;
  due: Day | null;
  reference: string;
  note: string;
  made_by: number;
  made_at: string;
  cancelled_by: number | null;
  cancelled_at: string | null;
}

const ORDER = `SELECT o.id, o.number, o.customer_id, f.code, f.name, o.stage, o.due, o.reference, o.note,
  o.made_by, o.made_at, o.cancelled_by, o.cancelled_at FROM sales_order o JOIN firm f ON f.id = o.customer_id`;

export async function orderById(ctx: Reading, id: number): Promise<OrderTableRow> {
  const row = await ctx.sql.one<OrderTableRow>(`${ORDER} WHERE o.id = $id`, { id });
  if (!row) throw new Refusal("not-found", { what: "order", id });
  return row;
}

/** What a line takes of one item, and how it stands with that. */
export interface Take extends TakeState {
  item: number;
  per: Decimal;
  open: Decimal;
  servings: Serving[];
}

export interface Line {
  id: number;
  order: number;
  item: number;
  quantity: Decimal;
  price: Decimal | null;
  takes: Take[];
}

/** The lines of orders with what each has: what is there is dealt out to all open orders in turn, by due day. */
export async function linesOf(ctx: Reading, orders: Iterable<number>): Promise<Line[]> {
  const rows = await ctx.sql.all<{
    id: number;
    order: number;
    item: number;
    quantity: number;
    price: number | null;
    takes: string;
  }>(
    `SELECT l.id, l.order_id AS "order", l.item_id AS item, l.quantity, l.price,
            (SELECT json_group_array(json_array(t.item_id, t.per, t.open) ORDER BY t.id) FROM sales_take t WHERE t.line_id = l.id) AS takes
       FROM json_each($ids) ids JOIN sales_line l ON l.order_id = ids.value ORDER BY l.order_id, l.line`,
    { ids: asJson(orders) },
  );
  const takes = new Map(
    rows.map((row) => [row.id, JSON.parse(row.takes) as [item: number, per: number, open: number][]]),
  );
  const got = await dealtOut(ctx, new Set([...takes.values()].flat().map(([item]) => item)));
  return rows.map((row) => ({
    ...{ id: row.id, order: row.order, item: row.item, quantity: quantityFromWhole(row.quantity) },
    price: row.price === null ? null : moneyFromWhole(row.price),
    takes: (takes.get(row.id) ?? []).map(([item, per, whole]) => {
      const open = quantityFromWhole(whole);
      const own = got.servings.filter((s) => s.line === row.id && s.product === item);
      const has = open.eq(0) ? open : got.of(row.id, item);
      return {
        ...{ item, per: quantityFromWhole(per), open, servings: own },
        ...takeState(open, has, sum(own.map((s) => s.coming))),
      };
    }),
  }));
}

/** Stock of items, dealt out to all that open orders take of them. */
async function dealtOut(ctx: Reading, items: ReadonlySet<number>) {
  const asks = await ctx.sql.all<{ line: number; item: number; open: number }>(
    `SELECT t.line_id AS line, t.item_id AS item, t.open
       FROM json_each($ids) ids JOIN sales_take t ON t.item_id = ids.value AND t.open > 0
       JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id
      ORDER BY o.due IS NULL, o.due, o.id, l.line`,
    { ids: asJson(items) },
  );
  const served = await servings(
    ctx,
    asks.map((ask) => ask.line),
  );
  const stock = await stockFigures(ctx, items);
  const found = new Map<string, Decimal>();
  for (const [item, own] of groupBy(asks, (ask) => ask.item)) {
    const wanted = own.map(({ line, open }) => ({
      open: quantityFromWhole(open),
      made: sum(served.filter((s) => s.line === line && s.product === item).map((s) => s.made)),
    }));
    // What builds hold is not the orders' to have; their own reservations are what is dealt out here.
    const there = free(stock(item)).plus(sum(wanted.map((ask) => ask.open)));
    const shares = dealOut(there, wanted);
    for (const [i, { line }] of own.entries()) {
      const share = shares[i];
      if (share) found.set(`${line} ${item}`, share);
    }
  }
  return {
    servings: served,
    of: (line: number, item: number): Decimal => {
      const share = found.get(`${line} ${item}`);
      if (!share) throw new Error(`What line ${line} has of item ${item} was not dealt out`);
      return share;
    },
  };
}

const isReady = ({ takes }: Line) => takes.every((take) => take.ready.eq(take.open));
const misses = ({ takes }: Line) => takes.some((take) => take.missing.gt(0));

/** Customers' orders, or those at one stage: open ones by due day, undated last; then what is cancelled, latest first. */
export async function orderRows(ctx: Reading, stage: OrderStage | "" = ""): Promise<OrderRow[]> {
  const orders = await ctx.sql.all<OrderTableRow>(
    `${ORDER} WHERE $stage IN ('', o.stage) ORDER BY o.stage = 'cancelled', o.cancelled_at DESC, o.due IS NULL, o.due, o.id`,
    { stage },
  );
  const lines = groupBy(
    await linesOf(
      ctx,
      orders.map((order) => order.id),
    ),
    (line) => line.order,
  );
  return orders.map((order) => rowOf(order, lines.get(order.id) ?? [], ctx.today));
}

function rowOf(order: OrderTableRow, lines: readonly Line[], today: Day): OrderRow {
  const open = order.stage === "open";
  return {
    id: order.id,
    number: order.number,
    customer: { id: order.customer_id, code: order.code, name: order.name },
    stage: order.stage,
    due: order.due,
    reference: order.reference,
    lines: lines.length,
    linesReady: open ? lines.filter(isReady).length : 0,
    linesMissing: open ? lines.filter(misses).length : 0,
    overdue: open && order.due !== null && order.due < today,
    made: order.made_at,
  };
}

/** One order: how far each line can be served, what is being built for it, and what it comes to. */
export async function orderSheet(ctx: Reading, id: number): Promise<OrderSheet> {
  const order = await orderById(ctx, id);
  const lines = await linesOf(ctx, [id]);
  const items = lines.flatMap((line) => [line.item, ...line.takes.map((take) => take.item)]);
  const brief = await briefs(ctx, items);
  const lists = await loadLists(ctx, items);
  const people = (await placeAndPersonNames(ctx)).people;
  const totals = lines.map(({ quantity, price }) => (price === null ? null : lineTotal(quantity, price)));
  const priced = totals.filter((total) => total !== null);
  const by = (person: number | null) => people.get(person ?? 0) ?? "";
  return {
    ...rowOf(order, lines, ctx.today),
    note: order.note,
    total: priced.length === lines.length ? sum(priced).toFixed(2) : null,
    orderLines: lines.map((line, i) => {
      const item = brief(line.item);
      return {
        ...{ id: line.id, item, quantity: line.quantity.toFixed(), price: line.price?.toFixed(2) ?? null },
        total: totals[i]?.toFixed(2) ?? null,
        ready: setsReady(line.quantity, line.takes, item.decimals).toFixed(),
        takes: line.takes.map((take) => ({
          item: brief(take.item),
          open: take.open.toFixed(),
          ready: take.ready.toFixed(),
          coming: take.coming.toFixed(),
          missing: take.missing.toFixed(),
          canBeBuilt: lists.has(take.item),
          builds: take.servings.map(({ build, made, coming }) => ({
            ...build,
            ...{ made: made.toFixed(), coming: coming.toFixed() },
          })),
        })),
      };
    }),
    history: [
      { what: "taken" as const, person: by(order.made_by), moment: order.made_at },
      ...(order.cancelled_at === null
        ? []
        : [{ what: "cancelled" as const, person: by(order.cancelled_by), moment: order.cancelled_at }]),
    ],
  };
}

/** How many orders are open, are overdue, and miss something that is not being built either. */
export async function orderCounts(
  ctx: Reading,
): Promise<{ orders: number; ordersOverdue: number; ordersMissing: number }> {
  const open = await orderRows(ctx, "open");
  return {
    orders: open.length,
    ordersOverdue: open.filter((order) => order.overdue).length,
    ordersMissing: open.filter((order) => order.linesMissing > 0).length,
  };
}
