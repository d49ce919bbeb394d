import { type OrderedSet, type OrderRow, type OrderSheet, Refusal } from "@yosegi/contract";
import {
  type CreditStop,
  compareDays,
  type Day,
  type Decimal,
  type LinePromise,
  lineTotal,
  NO_STANDING,
  ONE,
  type OrderStage,
  quantityFromScaled,
  quantityToScaled,
  type Rate,
  type Standing,
  setsReady,
  sumIfKnown,
} from "@yosegi/core";
import { type Allocation, allocationsOf, standingsOf } from "../allocations/index.ts";
import { asJson, groupBy, type PageQuery, pageOf, type Reading, rateOrNull } from "../db/index.ts";
import { briefs, prices } from "../items/index.ts";
import { loadKits } from "../kits/index.ts";
import { loadLists } from "../lists/index.ts";
import { personNames } from "../people/index.ts";
import {
  openPromises,
  orderPromise,
  promiseAnswer,
  promisesOfTyped,
  promisesWith,
} from "../promises/index.ts";
import { taxAnswer } from "./money.ts";
import { missingToBuy, needsOfOrders } from "./needs.ts";
import { offeredPrice, savedSets, setAnswer, setItems } from "./sets.ts";

export interface OrderTableRow {
  id: number;
  number: string;
  version: number;
  customer_id: number;
  code: string;
  name: string;
  stage: OrderStage;
  due: Day | null;
  reference: string;
  note: string;
  precedence: number | null;
  address: string;
  terms: string;
  cost_tag: string;
  accepted: CreditStop | null;
  accepted_by: number | null;
  accepted_at: string | null;
  valid_until: Day | null;
  quote: string;
  ordered_by: number | null;
  ordered_at: string | null;
  created_by: number;
  created_at: string;
  cancelled_by: number | null;
  cancelled_at: string | null;
  lines: number;
}

const ORDER = `SELECT o.id, o.number, o.version, o.customer_id, f.code, f.name, o.stage, o.due, o.reference, o.note,
  o.precedence, o.address, o.terms, o.cost_tag, o.accepted, o.accepted_by, o.accepted_at, o.valid_until, o.quote, o.ordered_by, o.ordered_at, o.created_by, o.created_at, o.cancelled_by, o.cancelled_at,
  (SELECT COUNT(*) FROM sales_line WHERE order_id = o.id) AS lines FROM sales_order o JOIN firm_head f ON f.id = o.customer_id`;

export async function orderById(ctx: Reading, id: number): Promise<OrderTableRow> {
  const row = await ctx.sql.one<OrderTableRow>(`${ORDER} WHERE o.id = $id`, { id });
  if (!row) throw new Refusal("not-found", { what: "order", id });
  return row;
}

/** Refuses a step of an order or quote that has ended. */
export function refuseEnded({ number, stage }: OrderTableRow): void {
  if (stage === "cancelled") throw new Refusal("order-ended", { number, stage });
}

/** Refuses a step of what is no open order: of one that has ended, or of a quote. */
export function refuseNotOpen(order: OrderTableRow): void {
  refuseEnded(order);
  if (order.stage === "quote") throw new Refusal("quote-not-ordered", { number: order.number });
}

/** The orders there are of those ids. */
export const ordersById = (ctx: Reading, ids: Iterable<number>): Promise<OrderTableRow[]> =>
  ctx.sql.all<OrderTableRow>(`${ORDER} WHERE o.id IN (SELECT value FROM json_each($ids)) ORDER BY o.id`, {
    ids: asJson(new Set(ids)),
  });

/** All open orders, the earliest wanted first. */
export const openOrders = (ctx: Reading): Promise<OrderTableRow[]> =>
  ctx.sql.all<OrderTableRow>(`${ORDER} WHERE o.stage = 'open' ORDER BY o.due IS NULL, o.due, o.id`);

/** What a line asks of one item, and how it stands with that; quantities in whole millionths. */
export interface Component extends Standing {
  item: number;
  per: number;
  open: number;
  builds: Allocation[];
}

export interface Line {
  id: number;
  order: number;
  item: number;
  quantity: number;
  price: Rate | null;
  pricePer: string;
  /** Percent. */
  discount: Decimal;
  /** Percent. */
  taxRate: Decimal;
  serial: string;
  promised: Day | null;
  components: Component[];
}

interface LineRow {
  id: number;
  order: number;
  item: number;
  quantity: number;
  price: number | null;
  price_per: number;
  price_unit: string;
  discount: number;
  tax_rate: number;
  serial: string;
  promised: Day | null;
}

/** The lines of orders with what each has: what is in stock or on its way is dealt out to all open orders in turn. */
export async function linesOf(ctx: Reading, orders: Iterable<number>): Promise<Line[]> {
  const bind = { ids: asJson(orders) };
  const rows = await ctx.sql.all<LineRow>(
    `SELECT l.id, l.order_id AS "order", l.item_id AS item, l.quantity, l.price, l.price_per, l.price_unit, l.discount, l.tax_rate, l.serial, l.promised
       FROM json_each($ids) ids JOIN sales_line l ON l.order_id = ids.value ORDER BY l.order_id, l.line`,
    bind,
  );
  const takes = await ctx.sql.all<{ line: number; item: number; per: number; open: number }>(
    `SELECT t.line_id AS line, t.item_id AS item, t.per, t.open
       FROM json_each($ids) ids JOIN sales_line l ON l.order_id = ids.value JOIN order_component t ON t.line_id = l.id ORDER BY t.id`,
    bind,
  );
  const key = ({ line, item }: { line: number; item: number }) => `${line} ${item}`;
  const found = await standingsOf(ctx, new Set(takes.map((take) => take.item)));
  const standings = new Map(found.map((standing) => [key(standing), standing]));
  const builds = groupBy(
    await allocationsOf(
      ctx,
      rows.map((row) => row.id),
    ),
    ({ line, product }) => key({ line, item: product }),
  );
  const components = groupBy(takes, (take) => take.line);
  return rows.map(({ price, price_per, price_unit, discount, tax_rate, ...row }) => ({
    ...row,
    price: rateOrNull(price, price_per),
    pricePer: price_unit,
    discount: quantityFromScaled(discount),
    taxRate: quantityFromScaled(tax_rate),
    components: (components.get(row.id) ?? []).map((take) => ({
      ...(standings.get(key(take)) ?? NO_STANDING),
      item: take.item,
      per: take.per,
      open: take.open,
      builds: builds.get(key(take)) ?? [],
    })),
  }));
}

const isReady = ({ ready, open }: Pick<Component, "ready" | "open">) => ready === open;

/** A page of customers' orders: open ones by wanted day, undated last; then quotes, by the day until which they are valid; then what is cancelled, latest first. */
export async function findOrders(
  ctx: Reading,
  query: PageQuery,
): Promise<{ orders: OrderRow[]; total: number; next: string | null }> {
  const text =
    query.search === "" ? "''" : "o.number || ' ' || f.code || ' ' || f.name || ' ' || o.reference";
  const found = await ctx.sql.allAtOnce<{ id: number; text: string }>(
    ["id", "text"],
    `SELECT o.id, ${text} AS text FROM sales_order o JOIN firm_head f ON f.id = o.customer_id
      ORDER BY CASE o.stage WHEN 'open' THEN 0 WHEN 'quote' THEN 1 ELSE 2 END, o.cancelled_at DESC, CASE o.stage WHEN 'quote' THEN o.valid_until END,
               o.due IS NULL, o.due, CASE o.stage WHEN 'cancelled' THEN -o.id ELSE o.id END`,
  );
  const { rows, total, next } = pageOf(found, query, (row) => row.text);
  const orders = await ctx.sql.all<OrderTableRow>(
    `${ORDER} JOIN json_each($ids) ids ON ids.value = o.id ORDER BY ids.key`,
    { ids: asJson(rows.map((row) => row.id)) },
  );
  const standings = await lineStandings(
    ctx,
    orders.filter((order) => order.stage === "open").map((order) => order.id),
  );
  return {
    orders: orders.map((order) => rowOf(order, standings.get(order.id) ?? NO_LINES, ctx.today)),
    total,
    next,
  };
}

/** How many lines an order has, and of how many all is in stock, or something is missing. */
interface LineCounts {
  lines: number;
  ready: number;
  missing: number;
}

const NO_LINES: LineCounts = { lines: 0, ready: 0, missing: 0 };

async function lineStandings(ctx: Reading, orders: readonly number[]): Promise<Map<number, LineCounts>> {
  const lines = groupBy(await linesOf(ctx, orders), (line) => line.order);
  return new Map([...lines].map(([order, own]) => [order, countsOf(own)]));
}

const countsOf = (lines: readonly Line[]): LineCounts => ({
  lines: lines.length,
  ready: lines.filter(({ components }) => components.every(isReady)).length,
  missing: lines.filter(({ components }) => components.some((c) => c.missing > 0)).length,
});

function rowOf(order: OrderTableRow, { lines, ready, missing }: LineCounts, today: Day): OrderRow {
  const open = order.stage === "open";
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
    linesMissing: open ? missing : 0,
    overdue: open && order.due !== null && order.due < today,
    made: order.created_at,
  };
}

/** Whether a quote is not valid any more. */
export const isLapsed = (
  { stage, valid_until }: Pick<OrderTableRow, "stage" | "valid_until">,
  today: Day,
): boolean => stage === "quote" && valid_until !== null && valid_until < today;

/** The texts that stand among an order's lines. */
export const textsOf = (ctx: Reading, order: number): Promise<OrderSheet["texts"]> =>
  ctx.sql.all("SELECT before, text FROM order_text WHERE order_id = $order ORDER BY position", { order });

/** When the lines of an order could leave; of a quote as if it were ordered now; null once it has ended. */
async function promisesFor(ctx: Reading, order: OrderTableRow, lines: readonly Line[]) {
  if (order.stage === "cancelled") return null;
  if (order.stage === "open") {
    const promises = await openPromises(ctx);
    const own = lines.map((line) => promises.promises.find((promise) => promise.line === line.id));
    return { promises, own };
  }
  const typed = lines.map(({ quantity, components }) => ({
    id: null,
    takes: new Map(
      components.map(({ item, per }) => [item, quantityFromScaled(per).times(quantityFromScaled(quantity))]),
    ),
  }));
  const promises = await promisesWith(
    ctx,
    { id: null, turn: { due: order.due, precedence: null }, lines: typed },
    true,
  );
  return { promises, own: promisesOfTyped(promises) };
}

/** A line of a quote as it would stand if it were ordered now. */
const asOrdered = (line: Line, promise: LinePromise | undefined): Line => ({
  ...line,
  components: line.components.map((component) => ({
    ...component,
    ...(promise?.components.find((own) => own.item === component.item)?.standing ?? NO_STANDING),
    open: quantityToScaled(quantityFromScaled(component.per).times(quantityFromScaled(line.quantity))),
  })),
});

/** One order: how far each line can be served, what is being built for it, and what it comes to. */
export async function orderSheet(ctx: Reading, id: number): Promise<OrderSheet> {
  const order = await orderById(ctx, id);
  const saved = await linesOf(ctx, [id]);
  const found = await promisesFor(ctx, order, saved);
  const [promises, own] = [found?.promises ?? null, found?.own ?? []];
  const lines = order.stage === "quote" ? saved.map((line, i) => asOrdered(line, own[i])) : saved;
  const items = lines.flatMap((line) => [line.item, ...line.components.map((c) => c.item)]);
  const brief = await briefs(ctx, items);
  const lists = await loadLists(ctx, items);
  const people = await personNames(ctx);
  const decimals = ctx.currencyDecimals;
  const totals = lines.map(({ quantity, price, discount }) =>
    price === null ? null : lineTotal(quantityFromScaled(quantity), price, discount, decimals),
  );
  const sets = await savedSets(
    ctx,
    lines.map((line) => line.id),
  );
  const kits = await loadKits(
    ctx,
    lines.flatMap((line) => (sets.has(line.id) ? line.item : [])),
  );
  const itemOf = await setItems(ctx, sets.values());
  const ownPrice = await prices(ctx, kits.keys());
  const setOf = ({ id, item, price, discount }: Line): OrderedSet | null => {
    const set = sets.get(id);
    if (!set) return null;
    const money = {
      price: price && lineTotal(ONE, price, discount, decimals),
      offered: offeredPrice(ctx, set, ownPrice(item), itemOf),
    };
    return setAnswer(ctx, set, money, kits.get(item), itemOf);
  };
  const toBuy =
    promises && order.stage === "open"
      ? await missingToBuy(ctx, promises, needsOfOrders(promises, id).buy)
      : [];
  const purchasesOf = await purchasesFor(ctx, lines);
  const by = (person: number | null) => people.get(person ?? 0) ?? "";
  const text = (whole: number) => quantityFromScaled(whole).toFixed();
  return {
    ...rowOf(order, countsOf(lines), ctx.today),
    version: order.version,
    note: order.note,
    address: order.address,
    terms: order.terms,
    costTag: order.cost_tag,
    quote: order.quote,
    texts: await textsOf(ctx, id),
    ...taxAnswer(
      ctx,
      lines.map(({ taxRate }, i) => ({ taxRate, total: totals[i] ?? null })),
    ),
    precedence: order.precedence,
    promise: promises && orderPromise(ctx, promises, own, order.due),
    toBuy: toBuy.flatMap(({ item, quantity }) =>
      quantity.gt(0) ? (promises?.factsOf(item).brief.code ?? []) : [],
    ),
    promised: lines.flatMap((line) => line.promised ?? []).reduce<Day | null>(latest, null),
    late: promises !== null && lines.some((line, i) => isLate(line, own[i])),
    total: sumIfKnown(totals)?.toFixed(decimals) ?? null,
    orderLines: lines.map((line, i) => {
      const item = brief(line.item);
      const ready = line.components.map((c) => ({
        per: quantityFromScaled(c.per),
        ready: quantityFromScaled(c.ready),
      }));
      return {
        id: line.id,
        item,
        quantity: text(line.quantity),
        price: line.price?.amount.toFixed(decimals) ?? null,
        pricePer: line.pricePer,
        discount: line.discount.toFixed(),
        total: totals[i]?.toFixed(decimals) ?? null,
        taxRate: line.taxRate.toFixed(),
        serial: line.serial,
        promise: promises && promiseAnswer(ctx, promises, own[i]),
        promised: line.promised,
        late: promises !== null && isLate(line, own[i]),
        set: setOf(line),
        ready: setsReady(quantityFromScaled(line.quantity), ready, item.decimals).toFixed(),
        takes: line.components.map((c) => ({
          item: brief(c.item),
          open: text(c.open),
          ready: text(c.ready),
          coming: text(c.coming),
          missing: text(c.missing),
          planned: text(c.planned),
          canBeBuilt: lists.has(c.item),
          purchases: purchasesOf(line.id, c.item),
          builds: c.builds.map(({ build, made, coming, planned }) => ({
            ...build,
            made: text(made),
            coming: text(coming + planned),
          })),
        })),
      };
    }),
    history: [
      { what: "created" as const, person: by(order.created_by), moment: order.created_at },
      ...(order.ordered_at === null
        ? []
        : [{ what: "ordered" as const, person: by(order.ordered_by), moment: order.ordered_at }]),
      ...(order.accepted === null || order.accepted_at === null
        ? []
        : [
            {
              what: `taken ${order.accepted}` as const,
              person: by(order.accepted_by),
              moment: order.accepted_at,
            },
          ]),
      ...(order.cancelled_at === null
        ? []
        : [{ what: "cancelled" as const, person: by(order.cancelled_by), moment: order.cancelled_at }]),
    ],
  };
}

/** What is being bought for lines: for each of their components, or for parts of what is built of it. */
async function purchasesFor(
  ctx: Reading,
  lines: readonly Line[],
): Promise<(line: number, component: number) => PurchaseForLine[]> {
  const rows = await ctx.sql.all<{
    line: number;
    component: number;
    id: number;
    number: string;
    stage: string;
    item: number;
    code: string;
    unit: string;
    expected: Day | null;
    quantity: number;
  }>(
    `SELECT n.line_id AS line, n.product_id AS component, n.purchase_id AS id, n.number, n.stage, n.item_id AS item, i.code, i.unit,
            n.expected, SUM(n.quantity) AS quantity
       FROM json_each($ids) ids JOIN ordered_for_line n ON n.line_id = ids.value JOIN item_head i ON i.id = n.item_id
      GROUP BY 1, 2, 3, 6 ORDER BY n.purchase_id`,
    { ids: asJson(lines.map((line) => line.id)) },
  );
  const found = groupBy(rows, (row) => `${row.line} ${row.component}`);
  return (line, component) =>
    (found.get(`${line} ${component}`) ?? []).map(({ id, number, stage, expected, quantity, ...row }) => ({
      id,
      number,
      stage,
      expected,
      item: { id: row.item, code: row.code, unit: row.unit },
      quantity: quantityFromScaled(quantity).toFixed(),
    }));
}

type PurchaseForLine = OrderSheet["orderLines"][number]["takes"][number]["purchases"][number];

const latest = (a: Day | null, b: Day): Day => (a === null || a < b ? b : a);

/** Whether a line leaves after the day that was promised; what takes nothing from stock could leave today. */
const isLate = ({ promised }: Line, promise: LinePromise | undefined): boolean =>
  promised !== null && promise !== undefined && compareDays(promise.day, promised) > 0;

/** How many orders are open, are overdue, and miss something that is not coming either. */
export async function orderCounts(
  ctx: Reading,
): Promise<{ orders: number; ordersOverdue: number; ordersMissing: number }> {
  const open = await ctx.sql.one<{ orders: number; overdue: number }>(
    `SELECT COUNT(*) AS orders, COUNT(CASE WHEN due < $today THEN 1 END) AS overdue FROM sales_order WHERE stage = 'open'`,
    { today: ctx.today },
  );
  const items = await ctx.sql.all<{ item: number }>(
    "SELECT DISTINCT item_id AS item FROM reserved WHERE line_id IS NOT NULL",
  );
  const standings = await standingsOf(
    ctx,
    items.map((row) => row.item),
  );
  const missing = new Set(standings.filter((s) => s.missing > 0).map((s) => s.order));
  return { orders: open?.orders ?? 0, ordersOverdue: open?.overdue ?? 0, ordersMissing: missing.size };
}
