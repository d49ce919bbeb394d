import { type AnswerOf, type OrderInput, type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  type CreditStop,
  type Decimal,
  later,
  lineTotal,
  moneyToScaled,
  ONE,
  quantityFromScaled,
  quantityToScaled,
  sum,
} from "@yosegi/core";
import { dropLinks, linkedBuilds, trimLinks } from "../allocations/index.ts";
import { asJson, countChange, nextNumber, type Reading, type Writing } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import { refuseTooMuch } from "../ledger/index.ts";
import { openPromises, ordersThatLose, ordersThatMove, promisesAtPrecedence } from "../promises/index.ts";
import { coverLines } from "./covering.ts";
import { customerTerms, refuseCredit } from "./credit.ts";
import { buildsOfOrder, offersOf } from "./following.ts";
import { type CheckedLine, checkLines } from "./lines.ts";
import { linesOf, orderById, refuseEnded } from "./rows.ts";
import { copyText, savedSets } from "./sets.ts";
import { ORDER_COMPONENT, ORDER_CONTENT, SALES_LINE, SALES_ORDER } from "./tables.ts";

/** Takes a customer's order and reserves what it asks for. Gives its id, and whose stock it takes. */
export async function newOrder(ctx: Writing, body: OrderInput): Promise<WrittenOrder> {
  await refuseFirm(ctx, "customer", "customer", { id: body.customer });
  const { lines } = await checkLines(ctx, body.lines);
  refuseOtherLines("a new order", new Map(), lines);
  const accepted = refuseCredit(
    ctx,
    await customerTerms(ctx, body.customer, null),
    worthOf(ctx, lines),
    body.goOn,
  );
  return takingFrom(ctx, async () => {
    const { id, saved } = await insertOrder(ctx, body, lines, accepted);
    return { id, builds: await coverLines(ctx, await orderById(ctx, id), saved), offers: [] };
  });
}

/** What came of writing an order. */
export interface WrittenOrder extends Pick<AnswerOf<typeof routes.newOrder>, "takesFrom" | "offers"> {
  id: number;
  /** Builds that were made or added to. */
  builds: number[];
}

/** Writes an order, and says which other open orders lose by it: an earlier day goes before a later one (docs/rules.md § 11). */
async function takingFrom(
  ctx: Reading,
  order: () => Promise<Omit<WrittenOrder, "takesFrom">>,
): Promise<WrittenOrder> {
  const before = await openPromises(ctx);
  const written = await order();
  return { ...written, takesFrom: ordersThatLose(ctx, before, await openPromises(ctx), written.id) };
}

/** What lines come to; those without a price count nothing. */
const worthOf = (ctx: Reading, lines: readonly CheckedLine[]): Decimal =>
  sum(
    lines.flatMap(({ quantity, price, discount }) =>
      price ? lineTotal(quantity, price, discount, ctx.currencyDecimals) : [],
    ),
  );

/** Who went on anyway, of what an order was stopped by. */
const acceptance = (ctx: Writing, accepted: CreditStop | null) =>
  accepted === null ? {} : { accepted, accepted_by: ctx.person.id, accepted_at: ctx.moment };

/** What an order says beside its lines. */
const headColumns = ({ customer, due, reference, note, address, terms, costTag }: OrderInput) => ({
  customer_id: customer,
  due,
  reference,
  note,
  address,
  terms,
  cost_tag: costTag,
});

async function insertOrder(
  ctx: Writing,
  body: OrderInput,
  lines: readonly CheckedLine[],
  accepted: CreditStop | null,
) {
  const row = await ctx.model(SALES_ORDER).create({
    number: await nextNumber(ctx, "O"),
    ...headColumns(body),
    ...acceptance(ctx, accepted),
    stage: "open",
    created_by: ctx.person.id,
    created_at: ctx.moment,
  });
  const { id } = row.get({ plain: true });
  return { id, saved: await writeLines(ctx, id, lines) };
}

/** Changes an open order. A line that stays keeps the builds that work for it. Says whose stock it takes. */
export async function changeOrder(ctx: Writing, id: number, body: OrderInput): Promise<WrittenOrder> {
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
  const accepted = refuseCredit(
    ctx,
    await customerTerms(ctx, body.customer, order),
    worthOf(ctx, kept),
    body.goOn,
  );
  return takingFrom(ctx, async () => {
    const linked = await buildsOfOrder(ctx, id);
    await ctx
      .model(SALES_ORDER)
      .update({ ...headColumns(body), ...acceptance(ctx, accepted) }, { where: { id } });
    await dropLinks(ctx, gone);
    await ctx.sql.run("DELETE FROM sales_line WHERE id IN (SELECT value FROM json_each($gone))", {
      gone: asJson(gone),
    });
    const saved = await writeLines(ctx, id, kept);
    const builds = await coverLines(ctx, await orderById(ctx, id), saved);
    return { id, builds, offers: await offersOf(ctx, id, linked, builds) };
  });
}

/** Takes a kit as it is defined now, in the place of the copy that a line of an open order keeps. Its price stays as it was said. */
export async function takeDefinition(ctx: Writing, id: number, line: number): Promise<WrittenOrder> {
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
    address: order.address,
    terms: order.terms,
    costTag: order.cost_tag,
    goOn: false,
    lines: lines.map(({ id: own, item, quantity, price, pricePer, discount, promised }) => ({
      id: own,
      item,
      quantity: quantityFromScaled(quantity),
      price: sets.get(own)?.kit.priceRule === "sum" ? null : (price?.amount ?? null),
      pricePer,
      discount,
      promised,
      contents: null,
      toBuild: null,
      proposeBuild: false,
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

/** A line that is taken off must have no build that is queued or further; drafts let go of it, and are offered to follow. */
async function refuseLinked(
  ctx: Reading,
  gone: readonly number[],
  lines: OrderInput["lines"],
): Promise<void> {
  const linked = (await linkedBuilds(ctx, gone)).filter((link) => link.stage !== "draft");
  const [first] = linked;
  if (!first) return;
  const at = lines.findIndex((line) => line.id === first.line);
  const builds = linked.filter((link) => link.line === first.line).map((link) => link.number);
  throw Refusal.at(at === -1 ? "lines" : `lines.${at}.item`, "line-linked", { builds: builds.join(", ") });
}

/** Writes the lines of an order, and what they reserve. A line that stays has the contents that were typed for it. */
async function writeLines(ctx: Writing, id: number, lines: readonly CheckedLine[]): Promise<SavedLine[]> {
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
  const idOf = new Map(added.map(({ line }, i) => [line, ids[i] ?? 0]));
  const saved = lines.map((line): SavedLine => ({ ...line, id: line.id ?? idOf.get(line) ?? 0 }));
  await writeContents(ctx, saved);
  await trimLinks(
    ctx,
    saved.map((line) => line.id),
  );
  await refuseTooMuch(
    ctx,
    lines.flatMap((line) => [...line.takes.keys()]),
  );
  return saved;
}

type SavedLine = CheckedLine & { id: number };

/** Writes what is in the sets of lines, and what each line reserves. */
async function writeContents(ctx: Writing, lines: readonly SavedLine[]): Promise<void> {
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
