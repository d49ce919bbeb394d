import {
  type AnswerOf,
  type OrderInput,
  type ParsedBody,
  PLAIN_ORDER_LINE,
  Refusal,
  type routes,
} from "@yosegi/contract";
import {
  type CreditStop,
  type Decimal,
  later,
  lineTotal,
  quantityFromScaled,
  reasonNotSelectable,
} from "@yosegi/core";
import { dropLinks, linkedBuilds } from "../allocations/index.ts";
import { asJson, countChange, nextNumber, type Reading, type Writing } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import { openPromises, ordersThatLose, ordersThatMove, promisesAtPrecedence } from "../promises/index.ts";
import { coverLines } from "./covering.ts";
import { customerTerms, refuseCredit } from "./credit.ts";
import { buildsOfOrder, offersOf } from "./following.ts";
import { type CheckedLine, checkLines } from "./lines.ts";
import { withTax } from "./money.ts";
import { putBackPacked } from "./packing.ts";
import { refuseAtSupplier, settleOrder } from "./progress.ts";
import {
  isLapsed,
  type OrderedLine,
  type OrderTableRow,
  orderById,
  orderedLines,
  refuseEnded,
  refuseNotOpen,
  textsOf,
} from "./rows.ts";
import { refuseSerials } from "./serials.ts";
import { savedSets } from "./sets.ts";
import { afterShipping, type WrittenLine } from "./shipped.ts";
import { SALES_LINE, SALES_ORDER } from "./tables.ts";
import { type SavedLine, writeLines, writeTexts } from "./writing.ts";

/** Takes a customer's order and reserves what it asks for, or gives a quote, which reserves nothing. Says whose stock it takes. */
export async function newOrder(ctx: Writing, body: OrderInput): Promise<WrittenOrder> {
  await refuseFirm(ctx, "customer", "customer", { id: body.customer });
  const { lines } = await checkLines(ctx, body.customer, body.lines);
  refuseOtherLines("a new order", new Map(), lines);
  if (body.validUntil !== null) return quoted((await insertOrder(ctx, body, lines, null)).id);
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

/** A quote takes nothing from anybody. */
const quoted = (id: number): WrittenOrder => ({ id, builds: [], offers: [], takesFrom: [] });

/** Writes an order, and says which other open orders lose by it: an earlier day goes before a later one (docs/rules.md § 11). */
async function takingFrom(
  ctx: Reading,
  order: () => Promise<Omit<WrittenOrder, "takesFrom">>,
): Promise<WrittenOrder> {
  const before = await openPromises(ctx);
  const written = await order();
  return { ...written, takesFrom: ordersThatLose(ctx, before, await openPromises(ctx), written.id) };
}

/** What lines come to with tax, as a customer's credit is measured; those without a price count nothing. */
const worthOf = (ctx: Reading, lines: readonly CheckedLine[]): Decimal =>
  withTax(
    ctx,
    lines.map(({ quantity, price, discount, taxRate }) => ({
      taxRate,
      total: price && lineTotal(quantity, price, discount, ctx.currencyDecimals),
    })),
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
  const isQuote = body.validUntil !== null;
  const row = await ctx.model(SALES_ORDER).create({
    number: await nextNumber(ctx, isQuote ? "Q" : "O"),
    ...headColumns(body),
    ...acceptance(ctx, accepted),
    stage: isQuote ? "quote" : "open",
    valid_until: body.validUntil,
    created_by: ctx.person.id,
    created_at: ctx.moment,
  });
  const { id } = row.get({ plain: true });
  await writeTexts(ctx, id, body.texts);
  return { id, saved: await writeLines(ctx, id, lines, isQuote) };
}

/** Changes an open order, or a quote. A line that stays keeps the builds that work for it. Says whose stock it takes. */
export async function changeOrder(ctx: Writing, id: number, body: OrderInput): Promise<WrittenOrder> {
  const order = await orderById(ctx, id);
  refuseEnded(order);
  refuseOtherKind(order, body);
  await refuseFirm(ctx, "customer", "customer", { id: body.customer, before: order.customer_id });
  const { lines } = await checkLines(ctx, body.customer, body.lines);
  const before = new Map((await orderedLines(ctx, [id])).map((line) => [line.id, line]));
  refuseOtherLines(order.number, before, lines);
  // A line that asks for another item is another line.
  const typed = lines.map((line) =>
    line.id !== null && before.get(line.id)?.item === line.item ? line : { ...line, id: null },
  );
  const stay = new Set(typed.map((line) => line.id));
  const gone = [...before.keys()].filter((line) => !stay.has(line));
  const kept = await afterShipping(ctx, order, body.customer, {
    before,
    kept: typed,
    gone,
    typed: body.lines,
  });
  await refuseLinked(ctx, gone, body.lines);
  await refuseAtSupplier(
    ctx,
    [...before.values()].filter(
      (line) => line.bySupplier && !kept.some((own) => own.id === line.id && own.bySupplier),
    ),
  );
  if (order.stage === "quote") {
    await rewriteOrder(ctx, order, body, { before, kept, gone, accepted: null });
    return quoted(id);
  }
  const accepted = refuseCredit(
    ctx,
    await customerTerms(ctx, body.customer, order),
    worthOf(ctx, kept),
    body.goOn,
  );
  return takingFrom(ctx, async () => {
    const linked = await buildsOfOrder(ctx, id);
    const saved = await rewriteOrder(ctx, order, body, { before, kept, gone, accepted });
    await putBackPacked(ctx, order);
    await settleOrder(ctx, id);
    const builds = await coverLines(ctx, await orderById(ctx, id), saved);
    return { id, builds, offers: await offersOf(ctx, id, linked, builds) };
  });
}

/** Writes what an order says anew; gives its lines as they are saved. */
async function rewriteOrder(
  ctx: Writing,
  { id, stage }: OrderTableRow,
  body: OrderInput,
  lines: {
    before: ReadonlyMap<number, OrderedLine>;
    kept: readonly WrittenLine[];
    gone: readonly number[];
    accepted: CreditStop | null;
  },
): Promise<SavedLine[]> {
  const isQuote = stage === "quote";
  const columns = { ...headColumns(body), ...acceptance(ctx, lines.accepted) };
  await ctx
    .model(SALES_ORDER)
    .update(isQuote ? { ...columns, valid_until: body.validUntil } : columns, { where: { id } });
  await dropLinks(ctx, lines.gone);
  await ctx.sql.run("DELETE FROM sales_line WHERE id IN (SELECT value FROM json_each($gone))", {
    gone: asJson(lines.gone),
  });
  await writeTexts(ctx, id, body.texts);
  return writeLines(ctx, id, lines.kept, isQuote, lines.before);
}

/** A quote stays one until it is ordered, and an order becomes none. */
function refuseOtherKind({ number, stage }: OrderTableRow, { validUntil }: OrderInput): void {
  if (stage === "quote" && validUntil === null) throw Refusal.at("validUntil", "quote-until-needed");
  if (stage !== "quote" && validUntil !== null) throw Refusal.at("validUntil", "order-no-quote", { number });
}

/** Makes a quote an order, as it was quoted; what it asks for is reserved from now on. Says whose stock it takes. */
export async function orderQuote(ctx: Writing, id: number, goOn: boolean): Promise<WrittenOrder> {
  const quote = await orderById(ctx, id);
  refuseEnded(quote);
  const { number, customer_id: customer, valid_until } = quote;
  if (quote.stage !== "quote") throw new Refusal("order-no-quote", { number });
  if (isLapsed(quote, ctx.today) && !goOn)
    throw Refusal.at("goOn", "quote-lapsed", { number, day: valid_until ?? "" });
  await refuseFirm(ctx, "customer", "customer", { id: customer });
  const { lines } = await checkLines(ctx, customer, (await savedBody(ctx, quote)).lines);
  for (const [i, { sold }] of lines.entries()) {
    const why = reasonNotSelectable("selling", sold);
    if (why) throw Refusal.at(`lines.${i}.item`, why, { code: sold.code, kind: sold.kind });
  }
  // What was in stock when it was quoted may have left since.
  await refuseSerials(ctx, lines, () => false);
  const terms = await customerTerms(ctx, customer, null);
  const accepted = refuseCredit(ctx, terms, worthOf(ctx, lines), goOn);
  return takingFrom(ctx, async () => {
    await ctx.model(SALES_ORDER).update(
      {
        number: await nextNumber(ctx, "O"),
        quote: number,
        stage: "open",
        ordered_by: ctx.person.id,
        ordered_at: ctx.moment,
        ...acceptance(ctx, accepted),
      },
      { where: { id } },
    );
    const proposed = lines.map((line) => ({ ...line, proposeBuild: true }));
    const saved = await writeLines(ctx, id, proposed, false);
    return { id, builds: await coverLines(ctx, await orderById(ctx, id), saved), offers: [] };
  });
}

/** An order as it is saved, to be written anew. */
export async function savedBody(ctx: Reading, order: OrderTableRow): Promise<OrderInput> {
  const lines = await orderedLines(ctx, [order.id]);
  const sets = await savedSets(
    ctx,
    lines.map((own) => own.id),
  );
  return {
    customer: order.customer_id,
    due: order.due,
    validUntil: order.stage === "quote" ? order.valid_until : null,
    reference: order.reference,
    note: order.note,
    address: order.address,
    terms: order.terms,
    costTag: order.cost_tag,
    goOn: false,
    texts: await textsOf(ctx, order.id),
    lines: lines.map(
      ({
        id,
        item,
        quantity,
        price,
        pricePer,
        discount,
        promised,
        serial,
        finishWhenShipped,
        bySupplier,
      }) => ({
        ...PLAIN_ORDER_LINE,
        id,
        item,
        quantity: quantityFromScaled(quantity),
        // A price that is the sum of the contents follows them.
        price: sets.get(id)?.kit.priceRule === "sum" ? null : (price?.amount ?? null),
        pricePer,
        discount,
        promised,
        serial,
        finishWhenShipped,
        bySupplier,
        toBuild: null,
      }),
    ),
  };
}

/** Takes a kit as it is defined now, in the place of the copy that a line of an open order keeps. Its price stays as it was said. */
export async function takeDefinition(
  ctx: Writing,
  id: number,
  line: number,
  goOn: boolean,
): Promise<WrittenOrder> {
  const order = await orderById(ctx, id);
  const body = await savedBody(ctx, order);
  const isSet = (await savedSets(ctx, [line])).has(line);
  if (!isSet || !body.lines.some((own) => own.id === line))
    throw new Refusal("not-found", { what: `kit on ${order.number}`, id: line });
  return changeOrder(ctx, id, {
    ...body,
    goOn,
    lines: body.lines.map((own) => ({ ...own, newDefinition: own.id === line })),
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

/** Whose promise would move if an order had another precedence, and when the order itself could leave then. */
export async function precedenceMoves(
  ctx: Reading,
  id: number,
  precedence: number | null,
): Promise<AnswerOf<typeof routes.precedenceMoves>> {
  refuseNotOpen(await orderById(ctx, id));
  const after = await promisesAtPrecedence(ctx, id, precedence);
  const own = after.promises.filter((_, i) => after.lines[i]?.order.order === id);
  return {
    day: own.map((line) => line.day).reduce(later, ctx.today),
    moves: ordersThatMove(ctx, await openPromises(ctx), after, id),
  };
}

/** Serves an open order before others, or in its turn by wanted date again (docs/rules.md § 11). */
export async function setPrecedence(ctx: Writing, id: number, precedence: number | null): Promise<void> {
  refuseNotOpen(await orderById(ctx, id));
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
  const own = new Set((await orderedLines(ctx, [id])).map((line) => line.id));
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
