import { type OrderSheet, Refusal } from "@yosegi/contract";
import {
  type CreditStop,
  type Day,
  type Decimal,
  divideUp,
  isOpenOrder,
  max,
  NO_STANDING,
  OPEN_ORDER_STAGES,
  type Ordered,
  type OrderStage,
  openOfOrdered,
  QUANTITY_DECIMALS,
  quantityFromScaled,
  type Rate,
  type Standing,
  setsReady,
  wholeSets,
  ZERO,
} from "@yosegi/core";
import { type Allocation, allocationsOf, standingsOf } from "../allocations/index.ts";
import { asJson, groupBy, type Reading, rateOrNull } from "../db/index.ts";

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
  closed_by: number | null;
  closed_at: string | null;
  created_by: number;
  created_at: string;
  cancelled_by: number | null;
  cancelled_at: string | null;
  lines: number;
}

/** An order with its customer, to be narrowed by a WHERE. */
export const ORDER = `SELECT o.id, o.number, o.version, o.customer_id, f.code, f.name, o.stage, o.due, o.reference, o.note,
  o.precedence, o.address, o.terms, o.cost_tag, o.accepted, o.accepted_by, o.accepted_at, o.valid_until, o.quote, o.ordered_by, o.ordered_at, o.closed_by, o.closed_at, o.created_by, o.created_at, o.cancelled_by, o.cancelled_at,
  (SELECT COUNT(*) FROM sales_line WHERE order_id = o.id) AS lines FROM sales_order o JOIN firm_head f ON f.id = o.customer_id`;

export async function orderById(ctx: Reading, id: number): Promise<OrderTableRow> {
  const row = await ctx.sql.one<OrderTableRow>(`${ORDER} WHERE o.id = $id`, { id });
  if (!row) throw new Refusal("not-found", { what: "order", id });
  return row;
}

/** Refuses a step of an order or quote that has ended. */
export function refuseEnded({ number, stage }: OrderTableRow): void {
  if (stage !== "quote" && !isOpenOrder(stage)) throw new Refusal("order-ended", { number, stage });
}

/** Refuses a step of what is no open order: of one that has ended, or of a quote. */
export function refuseNotOpen(order: OrderTableRow): void {
  refuseEnded(order);
  if (order.stage === "quote") throw new Refusal("quote-not-ordered", { number: order.number });
}

/** The stages of open orders, as SQL names them. */
export const OPEN = OPEN_ORDER_STAGES.map((stage) => `'${stage}'`).join(", ");

/** The orders there are of those ids. */
export const ordersById = (ctx: Reading, ids: Iterable<number>): Promise<OrderTableRow[]> =>
  ctx.sql.all<OrderTableRow>(`${ORDER} WHERE o.id IN (SELECT value FROM json_each($ids)) ORDER BY o.id`, {
    ids: asJson(new Set(ids)),
  });

/** All open orders, the earliest wanted first. */
export const openOrders = (ctx: Reading): Promise<OrderTableRow[]> =>
  ctx.sql.all<OrderTableRow>(`${ORDER} WHERE o.stage IN (${OPEN}) ORDER BY o.due IS NULL, o.due, o.id`);

/** What a line asks of one item, and what became of that; quantities in whole millionths. */
export interface OrderedComponent {
  item: number;
  per: number;
  open: number;
  shipped: number;
  closed: number;
  /** Of what is open, what lies in the order's own bin. */
  packed: number;
}

/** A line of an order and what became of it. */
export interface OrderedLine {
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
  /** Whether shipping finishes what is built for it; null: as its item says. */
  finishWhenShipped: boolean | null;
  /** Its supplier delivers it straight to the customer; it takes nothing from stock. */
  bySupplier: boolean;
  promised: Day | null;
  /** Of a line that takes nothing from stock. */
  shipped: number;
  closed: number;
  components: OrderedComponent[];
}

/** What a line asks of one item, and how it stands with that. */
export interface Component extends OrderedComponent, Standing {
  builds: Allocation[];
}

/** A line with what is in stock and on its way for it. */
export interface Line extends OrderedLine {
  components: Component[];
}

/** Of a line or component that is new. */
export const NOTHING_LEFT: Pick<OrderedComponent, "shipped" | "closed" | "packed"> = {
  shipped: 0,
  closed: 0,
  packed: 0,
};

/** What became of a line, or of each of its components. */
export const partsOf = ({ quantity, shipped, closed, components }: OrderedLine): Ordered[] =>
  components.length === 0
    ? [{ ordered: quantity, shipped, closed }]
    : components.map((own) => ({ ...own, ordered: own.open + own.shipped + own.closed }));

/** Kits are sold in whole sets; a single item as its unit allows. */
const decimalsFor = (item: number, components: readonly Pick<OrderedComponent, "item">[]): number =>
  components.some((own) => own.item !== item) ? 0 : QUANTITY_DECIMALS;

/** Whole sets or units of a line of an open order that could leave now; all that is open where it takes nothing from stock. */
export function setsReadyOf({ item, quantity, shipped, closed, components }: Line): Decimal {
  if (components.length === 0) return quantityFromScaled(quantity - shipped - closed);
  const has = components.map((own) => ({
    per: quantityFromScaled(own.per),
    shipped: quantityFromScaled(own.shipped),
    ready: quantityFromScaled(own.ready),
  }));
  return setsReady(quantityFromScaled(quantity), has, decimalsFor(item, components));
}

/** Whole sets or units of a line that left. */
export function setsLeft({ item, quantity, shipped, components }: OrderedLine): Decimal {
  if (components.length === 0) return quantityFromScaled(shipped);
  const has = components.map((own) => ({
    per: quantityFromScaled(own.per),
    has: quantityFromScaled(own.shipped),
  }));
  return wholeSets(quantityFromScaled(quantity), has, decimalsFor(item, components));
}

/** Whole sets or units of a line that are still to be completed. */
export function setsOpen({ item, quantity, shipped, closed, components }: OrderedLine): Decimal {
  if (components.length === 0) return quantityFromScaled(quantity - shipped - closed);
  return components
    .map(({ per, open }) =>
      divideUp(quantityFromScaled(open), quantityFromScaled(per), decimalsFor(item, components)),
    )
    .reduce(max, ZERO);
}

/** Whether something of a line of an order is still to leave. */
export const isLineOpen = (line: OrderedLine): boolean =>
  partsOf(line).some((part) => openOfOrdered(part) > 0);

/** Whether something of a line left already. */
export const hasLeft = (line: OrderedLine): boolean => partsOf(line).some((part) => part.shipped > 0);

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
  finish: number | null;
  direct: number;
  promised: Day | null;
  shipped: number;
  closed: number;
}

/** The lines of orders with what left and what is open of each. */
export async function orderedLines(ctx: Reading, orders: Iterable<number>): Promise<OrderedLine[]> {
  const bind = { ids: asJson(orders) };
  const rows = await ctx.sql.all<LineRow>(
    `SELECT l.id, l.order_id AS "order", l.item_id AS item, l.quantity, l.price, l.price_per, l.price_unit, l.discount, l.tax_rate, l.serial, l.finish_when_shipped AS finish, l.by_supplier AS direct, l.promised, l.shipped, l.closed
       FROM json_each($ids) ids JOIN sales_line l ON l.order_id = ids.value ORDER BY l.order_id, l.line`,
    bind,
  );
  const takes = await ctx.sql.all<OrderedComponent & { line: number }>(
    `SELECT t.line_id AS line, t.item_id AS item, t.per, t.open, t.shipped, t.closed, t.packed
       FROM json_each($ids) ids JOIN sales_line l ON l.order_id = ids.value JOIN order_component t ON t.line_id = l.id ORDER BY t.id`,
    bind,
  );
  const components = groupBy(takes, (take) => take.line);
  return rows.map(({ price, price_per, price_unit, discount, tax_rate, finish, direct, ...row }) => ({
    ...row,
    finishWhenShipped: finish === null ? null : finish === 1,
    bySupplier: direct === 1,
    price: rateOrNull(price, price_per),
    pricePer: price_unit,
    discount: quantityFromScaled(discount),
    taxRate: quantityFromScaled(tax_rate),
    components: (components.get(row.id) ?? []).map(({ line: _, ...take }) => take),
  }));
}

/** The lines of orders with what each has: what is in stock or on its way is dealt out to all open orders in turn. */
export async function linesOf(ctx: Reading, orders: Iterable<number>): Promise<Line[]> {
  const lines = await orderedLines(ctx, orders);
  const ids = lines.map((line) => line.id);
  const key = ({ line, item }: { line: number; item: number }) => `${line} ${item}`;
  const items = lines.flatMap(({ components }) => components.map((own) => own.item));
  const standings = new Map((await standingsOf(ctx, items)).map((standing) => [key(standing), standing]));
  const builds = groupBy(await allocationsOf(ctx, ids), ({ line, product }) => key({ line, item: product }));
  const deliveries = groupBy(
    lines.some((line) => line.bySupplier) ? await directDeliveries(ctx, ids) : [],
    (own) => own.line,
  );
  return lines.map((line) => ({
    ...line,
    components: line.components.map((own) => {
      const at = key({ line: line.id, item: own.item });
      const standing =
        standings.get(at) ??
        (line.bySupplier ? deliveryOf(deliveries.get(line.id) ?? [], own.open) : NO_STANDING);
      // What is packed is in stock for its own order alone.
      return { ...standing, ...own, ready: standing.ready + own.packed, builds: builds.get(at) ?? [] };
    }),
  }));
}

/** What suppliers are to deliver straight to customers, for lines. */
export const directDeliveries = (ctx: Reading, lines: Iterable<number>) =>
  ctx.sql.all<{ line: number; number: string; stage: string; expected: Day | null; quantity: number }>(
    `SELECT line_id AS line, number, stage, expected, quantity FROM direct_delivery
      WHERE line_id IN (SELECT value FROM json_each($lines)) ORDER BY purchase_id`,
    { lines: asJson(lines) },
  );

/** How a line stands that its supplier delivers: nothing of it is in stock for it. */
function deliveryOf(deliveries: readonly { stage: string; quantity: number }[], open: number): Standing {
  const sum = (of: (stage: string) => boolean) =>
    deliveries.reduce((n, { stage, quantity }) => (of(stage) ? n + quantity : n), 0);
  const coming = Math.min(
    open,
    sum((stage) => stage !== "draft"),
  );
  const missing = open - coming;
  const planned = Math.min(
    missing,
    sum((stage) => stage === "draft"),
  );
  return { ...NO_STANDING, coming, missing, planned };
}

/** Whether a quote is not valid any more. */
export const isLapsed = (
  { stage, valid_until }: Pick<OrderTableRow, "stage" | "valid_until">,
  today: Day,
): boolean => stage === "quote" && valid_until !== null && valid_until < today;

/** The texts that stand among an order's lines. */
export const textsOf = (ctx: Reading, order: number): Promise<OrderSheet["texts"]> =>
  ctx.sql.all("SELECT before, text FROM order_text WHERE order_id = $order ORDER BY position", { order });
