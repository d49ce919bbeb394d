import { type AnswerOf, type OrderedSet, type ParsedBody, rateFrom, type routes } from "@yosegi/contract";
import {
  costOfContents,
  type Day,
  type Decimal,
  free,
  type KitCopy,
  lineTotal,
  margin,
  max,
  ONE,
  type OrderedContent,
  openOfOrdered,
  proposedCover,
  quantityFromScaled,
  quantityToScaled,
  type Rate,
  rateOf,
  reasonNotSelectable,
  reordered,
  type StockFigures,
  setsAvailable,
  sumIfKnown,
  valueAt,
  ZERO,
} from "@yosegi/core";
import { type LinkedToLine, linkedOf, NOT_LINKED } from "../allocations/index.ts";
import { asJson, type Reading, rateOrNull } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import { loadKits } from "../kits/index.ts";
import { stockFigures } from "../ledger/index.ts";
import {
  openPromises,
  orderPromise,
  ordersThatLose,
  type Promises,
  promiseAnswer,
  promisesOfTyped,
  promisesWith,
  typedLine,
} from "../promises/index.ts";
import { customerTerms, stopOf } from "./credit.ts";
import { type CheckedLine, type CheckedLines, checkLines, type PriceOffer } from "./lines.ts";
import { taxAnswer, withTax } from "./money.ts";
import { NOTHING_LEFT, type OrderTableRow, orderById, orderedLines } from "./rows.ts";
import { askedFor } from "./serials.ts";
import { moneyIn, setAnswer } from "./sets.ts";

type Preview = AnswerOf<typeof routes.previewOrder>;
type LastPrice = NonNullable<Preview["lines"][number]["last"]>;

/** What the lines of an order come to while they are typed (docs/rules.md § 12), and what is free for each (§ 3). */
export async function previewOrder(
  ctx: Reading,
  { order, customer, due, lines }: ParsedBody<typeof routes.previewOrder>,
): Promise<Preview> {
  const saved = order === null ? null : await orderById(ctx, order);
  if (customer !== null)
    await refuseFirm(ctx, "customer", "customer", { id: customer, before: saved?.customer_id ?? null });
  const { lines: checked, rowOf, serials } = await checkLines(ctx, customer, lines);
  const asked = await askedFor(
    ctx,
    serials.map((one) => one.item),
    checked.flatMap((line) => line.id ?? []),
  );
  const kits = await loadKits(
    ctx,
    checked.flatMap((line) => (line.set ? line.item : [])),
  );
  const typed = await promisesWith(ctx, await typedOrder(ctx, saved, due, checked), true);
  const promises = promisesOfTyped(typed);
  const stock = await stockFor(ctx, order, checked);
  const last = await lastPrices(ctx, order, customer, checked);
  const linked = await linkedOf(
    ctx,
    checked.flatMap((line) => line.id ?? []),
  );
  const amounts = checked.map((line) => amountsOf(ctx, line, rowOf));
  const taxed = checked.map(({ taxRate }, i) => ({ taxRate, total: amounts[i]?.total ?? null }));
  return {
    ...moneyOf(ctx, sumIfKnown(amounts.map((own) => own.total)), sumIfKnown(amounts.map((own) => own.cost))),
    ...taxAnswer(ctx, taxed),
    customer: customer === null ? null : await customerAnswer(ctx, customer, saved, withTax(ctx, taxed)),
    promise: orderPromise(ctx, typed, promises, due),
    lines: checked.map((line, i) => ({
      ...moneyOf(ctx, amounts[i]?.total ?? null, amounts[i]?.cost ?? null),
      ...freeOf(line, stock),
      price: priceAnswer(ctx, {
        amount: line.price?.amount ?? null,
        per: line.pricePer,
        priceFrom: line.priceFrom,
      }),
      offer: priceAnswer(ctx, line.offer),
      taxRate: line.taxRate.toFixed(),
      promise: promiseAnswer(ctx, typed, promises[i]),
      set: setOf(ctx, line, kits, rowOf),
      cover: coverOf(line, typed, i, linked),
      serials: serials
        .filter(({ item, serial }) => item === line.item && !asked.has(`${item} ${serial}`))
        .map(({ serial, price }) => ({ serial, price: price.toFixed(ctx.currencyDecimals) })),
      last: last.get(line.item) ?? null,
    })),
  };
}

/** What counts when an order of a customer is taken, and what stops it. */
async function customerAnswer(
  ctx: Reading,
  customer: number,
  saved: OrderTableRow | null,
  asked: Decimal,
): Promise<Preview["customer"]> {
  const terms = await customerTerms(ctx, customer, saved);
  const money = (amount: Decimal) => amount.toFixed(ctx.currencyDecimals);
  return {
    note: terms.note,
    onHold: terms.onHold,
    creditLimit: terms.limit && money(terms.limit),
    used: money(terms.used),
    stop: stopOf(terms, asked),
  };
}

/** What the lines of an order would take from stock, in the turn that it would have. */
async function typedOrder(
  ctx: Reading,
  saved: OrderTableRow | null,
  due: Day | null,
  lines: readonly CheckedLine[],
) {
  const before = saved ? await orderedLines(ctx, [saved.id]) : [];
  const partOf = (line: number | null, item: number) =>
    before.find((own) => own.id === line)?.components.find((own) => own.item === item) ?? NOTHING_LEFT;
  return {
    id: saved?.id ?? null,
    turn: { due, precedence: saved?.precedence ?? null },
    lines: lines.map(({ id, takes, quantity, bySupplier }) => ({
      id,
      shipped: new Map(
        [...takes.keys()].map((item) => [item, partOf(id, item).shipped + partOf(id, item).packed]),
      ),
      takes: new Map(
        // What its supplier delivers takes nothing from stock.
        (bySupplier ? [] : [...takes]).map(([item, per]) => {
          const saved = partOf(id, item);
          const part = reordered(saved, quantityToScaled(per.times(quantity)));
          return [item, max(ZERO, quantityFromScaled(openOfOrdered(part) - saved.packed))];
        }),
      ),
    })),
  };
}

/** Which other open orders would lose stock, or leave later, if an order were saved as it is typed. */
export async function previewLosers(
  ctx: Reading,
  { order, customer, due, lines }: ParsedBody<typeof routes.previewLosers>,
): Promise<AnswerOf<typeof routes.previewLosers>> {
  const saved = order === null ? null : await orderById(ctx, order);
  const checked = await checkLines(ctx, customer, lines);
  const typed = await promisesWith(ctx, await typedOrder(ctx, saved, due, checked.lines));
  return { takesFrom: ordersThatLose(ctx, await openPromises(ctx), typed, order) };
}

/** What a line comes to and what it costs now; null where there is no price, or no cost. */
function amountsOf(
  ctx: Reading,
  { quantity, price, discount, sold, set }: CheckedLine,
  rowOf: CheckedLines["rowOf"],
) {
  const cost = set ? setCost(set.contents, rowOf) : rateFrom(sold.currentCost);
  return {
    total: price && lineTotal(quantity, price, discount, ctx.currencyDecimals),
    cost: cost && valueAt(quantity, cost),
  };
}

/** What one set costs now with the contents it has. */
function setCost(contents: readonly OrderedContent[], rowOf: CheckedLines["rowOf"]): Rate | null {
  const moneyOf = moneyIn(rowOf);
  const cost = costOfContents(contents.map(({ item, quantity }) => ({ quantity, ...moneyOf(item) })));
  return cost && rateOf(cost);
}

/** How a line of a built item is proposed to be covered; null for what can't be built. */
function coverOf(
  { id, item, sold, toBuild, proposeBuild }: CheckedLine,
  { lines, promises }: Promises,
  at: number,
  linked: ReadonlyMap<number, LinkedToLine>,
): Preview["lines"][number]["cover"] {
  if (reasonNotSelectable("product", sold) !== null) return null;
  const place = promises.findIndex((promise) => promise.line === typedLine(at));
  const ask = lines[place]?.components.find((own) => own.item === item);
  const standing = promises[place]?.components.find((own) => own.item === item)?.standing;
  if (!ask || !standing) return null;
  const proposed = proposeBuild
    ? proposedCover(ask, standing, sold.alwaysBuild).toBuild
    : Math.min(ask.open, (linked.get(id ?? 0) ?? NOT_LINKED).left);
  const build = toBuild === null ? proposed : quantityToScaled(toBuild);
  return {
    fromStock: quantityFromScaled(ask.open - build).toFixed(),
    toBuild: quantityFromScaled(build).toFixed(),
  };
}

/** The set of a line as it is typed; the kit as it is now is known for each. */
function setOf(
  ctx: Reading,
  { set, price, discount, item }: CheckedLine,
  kits: ReadonlyMap<number, KitCopy>,
  rowOf: CheckedLines["rowOf"],
): OrderedSet | null {
  if (!set) return null;
  const own = price && lineTotal(ONE, price, discount, ctx.currencyDecimals);
  return setAnswer(ctx, set, own, kits.get(item), rowOf);
}

function moneyOf(ctx: Reading, total: Decimal | null, cost: Decimal | null) {
  const left = total && cost && margin(total, cost);
  return {
    total: total?.toFixed(ctx.currencyDecimals) ?? null,
    margin: left?.money.toFixed(4) ?? null,
    marginPercent: left?.percent?.toFixed(1) ?? null,
  };
}

/** Stock figures of what lines take; what the order that is changed reserves itself is not reserved for it. */
async function stockFor(
  ctx: Reading,
  order: number | null,
  lines: readonly CheckedLine[],
): Promise<(item: number) => StockFigures> {
  const items = new Set(lines.flatMap((line) => [...line.takes.keys()]));
  const own = await ctx.sql.all<{ item: number; open: number }>(
    `SELECT t.item_id AS item, SUM(t.open) AS open FROM sales_line l JOIN order_component t ON t.line_id = l.id
      WHERE l.order_id = $order GROUP BY t.item_id`,
    { order },
  );
  const reserved = new Map(own.map(({ item, open }) => [item, quantityFromScaled(open)]));
  const stock = await stockFigures(ctx, items);
  return (item) => {
    const figures = stock(item);
    return { ...figures, reserved: figures.reserved.minus(reserved.get(item) ?? ZERO) };
  };
}

/** A price of a line, and where it is from; null where none is known. */
const priceAnswer = (
  ctx: Reading,
  { amount, per, priceFrom }: PriceOffer,
): Preview["lines"][number]["price"] =>
  amount && {
    price: amount.toFixed(ctx.currencyDecimals),
    pricePer: per,
    of: priceFrom.of,
    from: "from" in priceFrom ? priceFrom.from.toFixed() : null,
  };

/** What is free of a line's item, and what of its quantity is not. */
function freeOf(line: CheckedLine, stock: (item: number) => StockFigures) {
  const there = freeFor(line, stock);
  const short = there && max(ZERO, line.quantity.minus(max(ZERO, there)));
  return { free: there?.toFixed() ?? null, short: short?.toFixed() ?? null };
}

/** So many are free; whole sets of a kit. Null for what is not counted. */
function freeFor({ item, sold, takes }: CheckedLine, stock: (item: number) => StockFigures): Decimal | null {
  if (sold.kind !== "kit") return takes.has(item) ? free(stock(item)) : null;
  const contents = [...takes].map(([content, quantity]) => ({ item: content, quantity, stocked: true }));
  const { sets } = setsAvailable(contents, stock);
  return sets === "no limit" ? null : sets;
}

/** What a customer was last charged for each of these items, in another order that was not cancelled. */
async function lastPrices(
  ctx: Reading,
  order: number | null,
  customer: number | null,
  lines: readonly CheckedLine[],
): Promise<Map<number, LastPrice>> {
  if (customer === null) return new Map();
  const rows = await ctx.sql.all<{
    item: number;
    number: string;
    price: number;
    price_per: number;
    price_unit: string;
    discount: number;
  }>(
    `SELECT ids.value AS item, o.number, l.price, l.price_per, l.price_unit, l.discount
       FROM json_each($items) ids
       JOIN sales_line l ON l.id = (
         SELECT l2.id FROM sales_line l2 JOIN sales_order o2 ON o2.id = l2.order_id
          WHERE l2.item_id = ids.value AND l2.price IS NOT NULL AND o2.customer_id = $customer
            AND o2.stage NOT IN ('cancelled', 'quote') AND o2.id IS NOT $order
          ORDER BY o2.id DESC, l2.line DESC LIMIT 1)
       JOIN sales_order o ON o.id = l.order_id`,
    { items: asJson(new Set(lines.map((line) => line.item))), customer, order },
  );
  return new Map(
    rows.map(({ item, number, price, price_per, price_unit, discount }) => [
      item,
      {
        number,
        price: rateOrNull(price, price_per)?.amount.toFixed(ctx.currencyDecimals) ?? "",
        pricePer: price_unit,
        discount: quantityFromScaled(discount).toFixed(),
      },
    ]),
  );
}
