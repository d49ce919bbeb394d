import {
  type AnswerOf,
  type MovedOrder,
  type OrderInput,
  type ParsedBody,
  PLAIN_BUILD,
  Refusal,
  type routes,
} from "@yosegi/contract";
import {
  type Day,
  later,
  moneyToScaled,
  ONE,
  quantityFromScaled,
  quantityToScaled,
  reasonNotSelectable,
} from "@yosegi/core";
import { dropLinks, linkedBuilds, linkFree, trimLinks, writeLinks } from "../allocations/index.ts";
import { newBuild } from "../builds/index.ts";
import { asJson, countChange, groupBy, nextNumber, type Reading, type Writing } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import { itemRows } from "../itemsheets/index.ts";
import { refuseTooMuch } from "../ledger/index.ts";
import { openPromises, ordersThatLose, ordersThatMove, promisesAtPrecedence } from "../promises/index.ts";
import { type CheckedLine, checkLines } from "./lines.ts";
import { type Line, linesOf, type OrderTableRow, openOrders, orderById, ordersById } from "./rows.ts";
import { copyText, savedSets } from "./sets.ts";
import { ORDER_COMPONENT, ORDER_CONTENT, SALES_LINE, SALES_ORDER } from "./tables.ts";

/** Takes a customer's order and reserves what it asks for. Gives its id, and whose stock it takes. */
export async function newOrder(
  ctx: Writing,
  body: OrderInput,
): Promise<{ id: number; takesFrom: MovedOrder[] }> {
  await refuseFirm(ctx, "customer", "customer", { id: body.customer });
  const { lines } = await checkLines(ctx, body.lines);
  refuseOtherLines("a new order", new Map(), lines);
  return takingFrom(ctx, () => insertOrder(ctx, body, lines));
}

/** Writes an order, and says which other open orders lose by it: an earlier day goes before a later one (docs/rules.md § 11). */
async function takingFrom(
  ctx: Reading,
  order: () => Promise<number>,
): Promise<{ id: number; takesFrom: MovedOrder[] }> {
  const before = await openPromises(ctx);
  const id = await order();
  return { id, takesFrom: ordersThatLose(ctx, before, await openPromises(ctx), id) };
}

async function insertOrder(ctx: Writing, body: OrderInput, lines: readonly CheckedLine[]): Promise<number> {
  const row = await ctx.model(SALES_ORDER).create({
    number: await nextNumber(ctx, "O"),
    customer_id: body.customer,
    stage: "open",
    due: body.due,
    reference: body.reference,
    note: body.note,
    created_by: ctx.person.id,
    created_at: ctx.moment,
  });
  const { id } = row.get({ plain: true });
  await writeLines(ctx, id, lines);
  return id;
}

/** Changes an open order. A line that stays keeps the builds that work for it. Says whose stock it takes. */
export async function changeOrder(
  ctx: Writing,
  id: number,
  body: OrderInput,
): Promise<{ id: number; takesFrom: MovedOrder[] }> {
  const order = await orderById(ctx, id);
  refuseEnded(order);
  await refuseFirm(ctx, "customer", "customer", { id: body.customer, before: order.customer_id });
  const { lines } = await checkLines(ctx, body.lines);
  const before = new Map((await linesOf(ctx, [id])).map((line) => [line.id, line]));
  refuseOtherLines(order.number, before, lines);
  // A line that asks for another item is another line.
  const kept = lines.map((line) =>
    line.id !== null && before.get(line.id)?.item === line.item ? line : { ...line, id: null },
  );
  const stay = new Set(kept.map((line) => line.id));
  const gone = [...before.keys()].filter((line) => !stay.has(line));
  await refuseLinked(ctx, gone, body.lines);
  return takingFrom(ctx, async () => {
    await ctx
      .model(SALES_ORDER)
      .update(
        { customer_id: body.customer, due: body.due, reference: body.reference, note: body.note },
        { where: { id } },
      );
    await ctx.sql.run("DELETE FROM sales_line WHERE id IN (SELECT value FROM json_each($gone))", {
      gone: asJson(gone),
    });
    await writeLines(ctx, id, kept);
    return id;
  });
}

/** Takes a kit as it is defined now, in the place of the copy that a line of an open order keeps. Its price stays as it was said. */
export async function takeDefinition(
  ctx: Writing,
  id: number,
  line: number,
): Promise<{ id: number; takesFrom: MovedOrder[] }> {
  const order = await orderById(ctx, id);
  const lines = await linesOf(ctx, [id]);
  const sets = await savedSets(
    ctx,
    lines.map((own) => own.id),
  );
  if (!sets.has(line) || !lines.some((own) => own.id === line))
    throw new Refusal("not-found", { what: `kit on ${order.number}`, id: line });
  return changeOrder(ctx, id, {
    customer: order.customer_id,
    due: order.due,
    reference: order.reference,
    note: order.note,
    lines: lines.map(({ id: own, item, quantity, price, pricePer, discount, promised }) => ({
      id: own,
      item,
      quantity: quantityFromScaled(quantity),
      price: sets.get(own)?.kit.priceRule === "sum" ? null : (price?.amount ?? null),
      pricePer,
      discount,
      promised,
      contents: null,
      newDefinition: own === line,
    })),
  });
}

/** Refuses lines that name one of another order: what that one reserves would change. */
function refuseOtherLines(
  order: string,
  own: ReadonlyMap<number, unknown>,
  lines: readonly Pick<CheckedLine, "id">[],
): void {
  for (const [i, { id }] of lines.entries())
    if (id !== null && !own.has(id))
      throw Refusal.at(`lines.${i}.item`, "not-found", { what: `line of ${order}`, id });
}

/** Cancels an order: what it reserved is free, and no build works for it any more. */
export async function cancelOrder(ctx: Writing, id: number): Promise<void> {
  refuseEnded(await orderById(ctx, id));
  const lines = await ctx.sql.all<{ id: number }>("SELECT id FROM sales_line WHERE order_id = $id", { id });
  await ctx.sql.run(
    "UPDATE order_component SET open = 0 WHERE line_id IN (SELECT id FROM sales_line WHERE order_id = $id)",
    { id },
  );
  await dropLinks(
    ctx,
    lines.map((line) => line.id),
  );
  await ctx
    .model(SALES_ORDER)
    .update({ stage: "cancelled", cancelled_by: ctx.person.id, cancelled_at: ctx.moment }, { where: { id } });
}

/** Whose promise would move if an order had another precedence, and when the order itself could leave then. */
export async function precedenceMoves(
  ctx: Reading,
  id: number,
  precedence: number | null,
): Promise<AnswerOf<typeof routes.precedenceMoves>> {
  refuseEnded(await orderById(ctx, id));
  const after = await promisesAtPrecedence(ctx, id, precedence);
  const own = after.promises.filter((_, i) => after.lines[i]?.order.order === id);
  return {
    day: own.map((line) => line.day).reduce(later, ctx.today),
    moves: ordersThatMove(ctx, await openPromises(ctx), after, id),
  };
}

/** Serves an open order before others, or in its turn by wanted date again (docs/rules.md § 11). */
export async function setPrecedence(ctx: Writing, id: number, precedence: number | null): Promise<void> {
  refuseEnded(await orderById(ctx, id));
  await ctx.model(SALES_ORDER).update({ precedence }, { where: { id } });
}

/** Stores the day that was promised to the customer for an open order's lines, or for some of them. */
export async function promiseOrder(
  ctx: Writing,
  id: number,
  { day, lines }: ParsedBody<typeof routes.promiseOrder>,
): Promise<void> {
  const order = await orderById(ctx, id);
  refuseEnded(order);
  const own = new Set((await linesOf(ctx, [id])).map((line) => line.id));
  const other = lines.findIndex((line) => !own.has(line));
  if (other !== -1)
    throw Refusal.at(`lines.${other}`, "not-found", {
      what: `line of ${order.number}`,
      id: lines[other] ?? 0,
    });
  await ctx
    .model(SALES_LINE)
    .update({ promised: day }, { where: { id: lines.length === 0 ? [...own] : lines } });
  await countChange(ctx, SALES_ORDER, id);
}

/** What lines of open orders miss of products that have a list, and no draft is to give, the earliest wanted first. */
export async function missingProducts(ctx: Reading) {
  const orders = await openOrders(ctx);
  const found = groupBy(
    await quantityToBuild(
      ctx,
      await linesOf(
        ctx,
        orders.map((order) => order.id),
      ),
    ),
    (component) => component.order,
  );
  return orders.flatMap((order) =>
    (found.get(order.id) ?? [])
      .filter((component) => component.missing > component.planned)
      .map(({ item, line, missing, planned }) => ({
        item,
        line,
        missing: quantityFromScaled(missing - planned),
        order,
      })),
  );
}

/** The same as the page asks for it. */
export async function linesToBuild(ctx: Reading): Promise<AnswerOf<typeof routes.linesToBuild>> {
  const found = await missingProducts(ctx);
  return {
    lines: found.map(({ item, line, missing, order }) => ({
      order: order.id,
      number: order.number,
      customer: { id: order.customer_id, code: order.code, name: order.name },
      due: order.due,
      overdue: order.due !== null && order.due < ctx.today,
      line,
      item,
      missing: missing.toFixed(),
    })),
  };
}

/** What lines lack or have dealt out to them of products that can be built. */
async function quantityToBuild(ctx: Reading, lines: readonly Line[]) {
  const lacking = lines.flatMap(({ id, order, components }) =>
    components
      .filter((c) => c.missing > 0 || c.dealtOut > 0)
      .map((component) => ({ ...component, line: id, order })),
  );
  const rows = await itemRows(ctx, [...new Set(lacking.map((c) => c.item))]);
  const items = new Map(rows.map((item) => [item.id, item]));
  return lacking.flatMap(({ item: id, ...component }) => {
    const item = items.get(id);
    return item && reasonNotSelectable("product", item) === null ? [{ ...component, item }] : [];
  });
}

/** Makes what an order misses, or only some of its lines; see `buildFor`. */
export async function buildForOrder(ctx: Writing, id: number, only: readonly number[]): Promise<number[]> {
  const order = await orderById(ctx, id);
  refuseEnded(order);
  const lines = (await linesOf(ctx, [id])).filter((line) => only.length === 0 || only.includes(line.id));
  return buildFor(ctx, lines, new Map([[id, order.due]]), order.number);
}

/** Makes what lines of any open orders miss; see `buildFor`. */
export async function buildForLines(ctx: Writing, ids: readonly number[]): Promise<number[]> {
  const rows = await ctx.sql.all<{ line: number; order: number }>(
    `SELECT id AS line, order_id AS "order" FROM sales_line WHERE id IN (SELECT value FROM json_each($ids))`,
    { ids: asJson(ids) },
  );
  const known = new Set(rows.map((row) => row.line));
  const missing = ids.findIndex((id) => !known.has(id));
  if (missing !== -1)
    throw Refusal.at(`lines.${missing}`, "not-found", { what: "order line", id: ids[missing] ?? 0 });
  const orders = await ordersById(
    ctx,
    rows.map((row) => row.order),
  );
  for (const order of orders) refuseEnded(order);
  const lines = await linesOf(
    ctx,
    orders.map((order) => order.id),
  );
  return buildFor(
    ctx,
    lines.filter((line) => ids.includes(line.id)),
    new Map(orders.map((order) => [order.id, order.due])),
    orders.map((order) => order.number).join(", "),
  );
}

/**
 * Makes a draft build of each product that lines miss beyond what is planned, due with the earliest of them and linked to
 * all, and links the builds to stock that were dealt out to them (docs/rules.md § 11). Pressed twice, nothing is doubled. Gives
 * the ids of the new builds; `number` names the orders where there is nothing to do.
 */
async function buildFor(
  ctx: Writing,
  lines: readonly Line[],
  dueOf: ReadonlyMap<number, Day | null>,
  number: string,
): Promise<number[]> {
  const found = await quantityToBuild(ctx, lines);
  const linked = await linkFree(
    ctx,
    found.flatMap(({ item, line, dealtOut, plannedDealtOut }) => [
      { line, item: item.id, quantity: dealtOut, drafts: false },
      { line, item: item.id, quantity: plannedDealtOut, drafts: true },
    ]),
  );
  const lacking = groupBy(
    found.filter(({ missing, planned }) => missing > planned),
    ({ item }) => item.id,
  );
  const builds: number[] = [];
  for (const [product, wanted] of lacking) {
    const links = wanted.map(({ line, missing, planned }) => ({ line, quantity: missing - planned }));
    const quantity = quantityFromScaled(links.reduce((n, link) => n + link.quantity, 0));
    const dues = wanted.flatMap(({ order }) => dueOf.get(order) ?? []).sort();
    const build = await newBuild(ctx, { ...PLAIN_BUILD, product, quantity, due: dues[0] ?? null });
    await writeLinks(
      ctx,
      links.map((own) => ({ ...own, build })),
    );
    builds.push(build);
  }
  if (builds.length === 0 && linked === 0) throw new Refusal("order-builds-none", { number });
  return builds;
}

function refuseEnded({ number, stage }: OrderTableRow): void {
  if (stage !== "open") throw new Refusal("order-ended", { number, stage });
}

/** A line that is taken out must have nobody working for it. */
async function refuseLinked(
  ctx: Reading,
  gone: readonly number[],
  lines: OrderInput["lines"],
): Promise<void> {
  const linked = await linkedBuilds(ctx, gone);
  const [first] = linked;
  if (!first) return;
  const at = lines.findIndex((line) => line.id === first.line);
  const builds = linked.filter((link) => link.line === first.line).map((link) => link.number);
  throw Refusal.at(at === -1 ? "lines" : `lines.${at}.item`, "line-linked", { builds: builds.join(", ") });
}

/** Writes the lines of an order, and what they reserve. A line that stays has the contents that were typed for it. */
async function writeLines(ctx: Writing, id: number, lines: readonly CheckedLine[]): Promise<void> {
  const columns = (line: CheckedLine, at: number) => ({
    line: at + 1,
    quantity: quantityToScaled(line.quantity),
    price: line.price === null ? null : moneyToScaled(line.price.amount),
    price_per: line.price === null ? ONE_WHOLE : quantityToScaled(line.price.per),
    price_unit: line.pricePer,
    discount: quantityToScaled(line.discount),
    promised: line.promised,
    kit: line.set && copyText(line.set.kit),
  });
  await ctx.sql.update(
    SALES_LINE,
    ["id"],
    lines.flatMap((line, at) => (line.id === null ? [] : [{ id: line.id, ...columns(line, at) }])),
  );
  const added = lines.flatMap((line, at) => (line.id === null ? [{ line, at }] : []));
  const ids = await ctx.sql.insert(
    SALES_LINE,
    added.map(({ line, at }) => ({ order_id: id, item_id: line.item, ...columns(line, at) })),
  );
  const saved = lines.flatMap((line) => (line.id === null ? [] : [{ ...line, id: line.id }]));
  await writeContents(ctx, [...saved, ...added.map(({ line }, i) => ({ ...line, id: ids[i] ?? 0 }))]);
  await trimLinks(
    ctx,
    saved.map((line) => line.id),
  );
  await refuseTooMuch(
    ctx,
    lines.flatMap((line) => [...line.takes.keys()]),
  );
}

/** Writes what is in the sets of lines, and what each line reserves. */
async function writeContents(ctx: Writing, lines: readonly (CheckedLine & { id: number })[]): Promise<void> {
  const bind = { lines: asJson(lines.map((line) => line.id)) };
  const own = "WHERE line_id IN (SELECT value FROM json_each($lines))";
  await ctx.sql.run(`DELETE FROM order_content ${own}`, bind);
  await ctx.sql.run(`DELETE FROM order_component ${own}`, bind);
  await ctx.sql.insert(
    ORDER_CONTENT,
    lines.flatMap(({ id, set }) =>
      (set?.contents ?? []).map(({ of, item, quantity }, position) => ({
        line_id: id,
        position,
        defined: of,
        item_id: item,
        quantity: quantityToScaled(quantity),
      })),
    ),
  );
  await ctx.sql.insert(
    ORDER_COMPONENT,
    lines.flatMap(({ id, takes, quantity }) =>
      [...takes].map(([item, per]) => ({
        line_id: id,
        item_id: item,
        per: quantityToScaled(per),
        open: quantityToScaled(per.times(quantity)),
      })),
    ),
  );
}

/** One stock unit, as the database keeps it. */
const ONE_WHOLE = quantityToScaled(ONE);
