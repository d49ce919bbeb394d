import type { LinePromiseAnswer, OrderedSet, OrderPromiseAnswer, OrderSheet } from "@yosegi/contract";
import {
  compareDays,
  type Day,
  isOpenOrder,
  type LinePromise,
  later,
  lineTotal,
  NO_STANDING,
  ONE,
  quantityFromScaled,
  quantityToScaled,
  sumIfKnown,
} from "@yosegi/core";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
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
import { countsOf, rowOf } from "./list.ts";
import { taxAnswer } from "./money.ts";
import { missingToBuy, needsOfOrders } from "./needs.ts";
import {
  directDeliveries,
  isLineOpen,
  type Line,
  linesOf,
  type OrderTableRow,
  orderById,
  setsLeft,
  setsOpen,
  setsReadyOf,
  textsOf,
} from "./rows.ts";
import { savedSets, setAnswer, setItems } from "./sets.ts";

/** When the lines of an order could leave; of a quote as if it were ordered now; null once it has ended. */
async function promisesFor(ctx: Reading, order: OrderTableRow, lines: readonly Line[]) {
  if (isOpenOrder(order.stage)) {
    const promises = await openPromises(ctx);
    const own = lines.map((line) => promises.promises.find((promise) => promise.line === line.id));
    return { promises, own };
  }
  if (order.stage !== "quote") return null;
  const typed = lines.map(({ quantity, components }) => ({
    id: null,
    shipped: new Map(),
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
  const setOf = ({ id, item, price, discount }: Line): OrderedSet | null => {
    const set = sets.get(id);
    if (!set) return null;
    const own = price && lineTotal(ONE, price, discount, decimals);
    return setAnswer(ctx, set, own, kits.get(item), itemOf);
  };
  const toBuy =
    promises && isOpenOrder(order.stage)
      ? await missingToBuy(ctx, promises, needsOfOrders(promises, id).buy)
      : [];
  const purchasesOf = await purchasesFor(ctx, lines);
  const finishes = await finishedWhenShipped(ctx, items);
  const delivered = await deliveryDays(ctx, lines);
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
    promise:
      promises &&
      withDeliveries(
        orderPromise(ctx, promises, own, order.due),
        order.due,
        lines.flatMap((line) => delivered(line) ?? []),
      ),
    toBuy: toBuy.flatMap(({ item, quantity }) =>
      quantity.gt(0) ? (promises?.factsOf(item).brief.code ?? []) : [],
    ),
    promised: lines.flatMap((line) => line.promised ?? []).reduce<Day | null>(latest, null),
    late: promises !== null && lines.some((line, i) => isLate(line, own[i])),
    total: sumIfKnown(totals)?.toFixed(decimals) ?? null,
    orderLines: lines.map((line, i) => {
      const item = brief(line.item);
      const isOpen = isLineOpen(line);
      const [left, rest] = [setsLeft(line), setsOpen(line)];
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
        finishWhenShipped: line.finishWhenShipped,
        bySupplier: line.bySupplier,
        promise: promises && isOpen ? (delivered(line) ?? promiseAnswer(ctx, promises, own[i])) : null,
        promised: line.promised,
        late: promises !== null && isLate(line, own[i]),
        shipped: left.toFixed(),
        open: rest.toFixed(),
        closed: quantityFromScaled(line.quantity).minus(left).minus(rest).toFixed(),
        set: setOf(line),
        ready: setsReadyOf(line).toFixed(),
        takes: line.components.map((c) => ({
          item: brief(c.item),
          per: text(c.per),
          open: text(c.open),
          shipped: text(c.shipped),
          packed: text(c.packed),
          closed: text(c.closed),
          ready: text(c.ready),
          coming: text(c.coming),
          missing: text(c.missing),
          planned: text(c.planned),
          canBeBuilt: lists.has(c.item),
          finishWhenShipped: line.finishWhenShipped ?? finishes.has(c.item),
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
      ...(order.closed_at === null
        ? []
        : [{ what: "rest closed" as const, person: by(order.closed_by), moment: order.closed_at }]),
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

/** When suppliers deliver lines straight to the customer; null for the other lines. An unknown day is told as unknown. */
async function deliveryDays(
  ctx: Reading,
  lines: readonly Line[],
): Promise<(line: Line) => LinePromiseAnswer | null> {
  const direct = lines.filter((line) => line.bySupplier && isLineOpen(line));
  const rows = groupBy(
    await directDeliveries(
      ctx,
      direct.map((line) => line.id),
    ),
    (row) => row.line,
  );
  return (line) => {
    if (!direct.includes(line)) return null;
    const isCovered = line.components.every((own) => own.missing <= own.planned);
    const days = (rows.get(line.id) ?? []).map((row) => row.expected);
    return { day: isCovered ? days.reduce(later, ctx.today) : null, waitsFor: [] };
  };
}

/** The promise of an order with what suppliers deliver straight to the customer. */
function withDeliveries(
  promise: OrderPromiseAnswer,
  due: Day | null,
  deliveries: readonly LinePromiseAnswer[],
): OrderPromiseAnswer {
  if (deliveries.length === 0) return promise;
  const day = deliveries.map((own) => own.day).reduce(later, promise.day);
  const complete = due === null ? null : day !== null && day <= due;
  return { ...promise, day, complete };
}

/** Those of the items whose builds are finished when an order is shipped. */
async function finishedWhenShipped(ctx: Reading, items: readonly number[]): Promise<Set<number>> {
  const rows = await ctx.sql.all<{ id: number }>(
    "SELECT id FROM item_head WHERE finish_when_shipped = 1 AND id IN (SELECT value FROM json_each($items))",
    { items: asJson(new Set(items)) },
  );
  return new Set(rows.map((row) => row.id));
}

const latest = (a: Day | null, b: Day): Day => (a === null || a < b ? b : a);

/** Whether a line leaves after the day that was promised; what takes nothing from stock could leave today. */
const isLate = ({ promised }: Line, promise: LinePromise | undefined): boolean =>
  promised !== null && promise !== undefined && compareDays(promise.day, promised) > 0;
