import type {
  CoverAnswer,
  CoverOrder,
  DemandCoverAnswer,
  ExpectedAnswer,
  ParsedQuery,
  PartCoverAnswer,
  PartTimeline,
  QuestionInput,
  routes,
} from "@yosegi/contract";
import {
  affordable,
  arrivesBy,
  type Claim,
  type Cover,
  cover,
  type Day,
  type Decimal,
  type Demand,
  finishedBy,
  free,
  lineNeed,
  listCost,
  max,
  mostThat,
  needOf,
  needUnit,
  type OnDraft,
  type PartCover,
  quantityFromScaled,
  quantityToScaled,
  type Reach,
  type StockChange,
  type SuggestedOrder,
  spending,
  startDay,
  startFor,
  timeline,
  unitsFor,
  valueAt,
  wholeBatches,
  ZERO,
} from "@yosegi/core";
import { listFor, listsFor } from "../builds/index.ts";
import { asJson, type Reading } from "../db/index.ts";
import { briefs, itemById, itemsById, productById } from "../items/index.ts";
import { currentCosts, loadLists } from "../lists/index.ts";
import { type Coming, type ItemFacts, scopeBinds, scoped } from "./facts.ts";
import { type LoadedQuestion, readQuestion, supplyOf, withQuantity } from "./question.ts";

/** Whether stock and what comes cover what is wanted (docs/rules.md § 3 and § 4). */
export async function coverOf(ctx: Reading, question: QuestionInput): Promise<CoverAnswer> {
  const loaded = await readQuestion(ctx, question);
  const answer = answerTo(loaded, ctx.today);
  return {
    demands: await demandAnswers(ctx, question, loaded, answer),
    parts: answer.parts.map((part) => partAnswer(part, answer, loaded, ctx.today)),
    orders: answer.orders.map((order) => orderAnswer(ctx, order, loaded)),
    builds: answer.builds.map((build) => ({
      item: loaded.factsOf(build.item).brief,
      short: build.short.toFixed(),
      quantity: build.quantity.toFixed(),
      onDrafts: draftsAnswer(build.drafts),
      makesNow: figure(build.makesNow),
      finish: build.finish,
      needed: build.needed,
    })),
    finish: answer.finish,
    spending: spending(answer, ctx.currencyDecimals)?.toFixed(ctx.currencyDecimals) ?? null,
  };
}

function orderAnswer(ctx: Reading, order: SuggestedOrder, { factsOf }: LoadedQuestion): CoverOrder {
  const { brief, supplier, web, offerPer } = factsOf(order.item);
  const { offer, quantity } = order;
  const price = offer?.price ?? null;
  const decimals = ctx.currencyDecimals;
  return {
    item: brief,
    supplier: offer === null ? null : supplier,
    web: offer === null ? "" : web,
    short: order.short.toFixed(),
    quantity: quantity.toFixed(),
    price: price?.amount.toFixed() ?? null,
    pricePer: price === null ? "" : offerPer,
    cost: price === null ? null : valueAt(quantity, price, decimals).toFixed(decimals),
    onDrafts: draftsAnswer(order.drafts),
    orderBy: order.orderBy,
    arrives: offer === null ? null : arrivesBy(ctx.today, offer),
    for: order.for.map((f) => ({ demand: f.demand, quantity: f.quantity.toFixed() })),
  };
}

export const draftsAnswer = (drafts: readonly OnDraft[]) =>
  drafts.map(({ document, quantity }) => ({ document, quantity: quantity.toFixed() }));

const answerTo = (loaded: LoadedQuestion, today: Day): Cover =>
  cover(loaded.demands, supplyOf(loaded), today);

const figure = (reach: Reach): string | null => (reach === "no limit" ? null : reach.toFixed());

async function demandAnswers(
  ctx: Reading,
  question: QuestionInput,
  loaded: LoadedQuestion,
  answer: Cover,
): Promise<DemandCoverAnswer[]> {
  const more = await choices(ctx, question);
  return answer.demands.map((d, i) => {
    const wanted = question.demands[i];
    const { demand, parts } = d;
    const own = more.builds.get(wanted?.build ?? 0);
    return {
      item: loaded.factsOf(demand.item).brief,
      wanted: demand.quantity.toFixed(),
      started: d.started.toFixed(),
      filled: filledAnswer(demand),
      day: demand.day,
      startDay: d.startDay,
      priority: demand.priority,
      build: wanted?.build && own ? { id: wanted.build, number: own } : null,
      makesNow: figure(d.makesNow),
      limiting: d.limiting,
      finish: d.finish,
      unknown: parts.filter((part) => part.day === null).map((part) => part.item),
      finishedFree: max(ZERO, free(loaded.factsOf(demand.item).stock)).toFixed(),
      short: parts.filter((part) => part.shortNow.gt(0)).map((part) => part.item),
      list: wanted?.list ?? null,
      lists: more.lists.get(demand.item) ?? [],
      options: (more.options[i] ?? []).map((option) => ({
        ...option,
        chosen: wanted?.options.includes(option.item) ?? false,
      })),
      substitutes: (more.substitutes[i] ?? []).map((s) => ({
        ...s,
        chosen: wanted?.instead.some((w) => w.part === s.part && w.by === s.by) ?? false,
      })),
    };
  });
}

/** A demand rounded up to whole batches; a build that exists is as large as it was planned, and a kit is no build. */
function filledAnswer({ list, quantity, progress }: Demand): DemandCoverAnswer["filled"] {
  const filled = progress ? null : wholeBatches(list, quantity);
  return filled && { batches: filled.batches.toFixed(), quantity: filled.good.toFixed() };
}

interface Choices {
  builds: Map<number, string>;
  lists: Map<number, { id: number; name: string }[]>;
  /** Of each demand, by the list it names. */
  options: { item: number; name: string }[][];
  substitutes: { part: number; by: number; name: string }[][];
}

/**
 * What may be chosen for the products asked for: other lists, optional parts, and substitutes of parts. Asked for anew only after
 * a change.
 */
async function choices(ctx: Reading, { demands }: QuestionInput): Promise<Choices> {
  const products = [...new Set(demands.map((d) => d.item))];
  const builds = demands.flatMap((d) => d.build ?? []);
  const asked = demands.map(({ item, list }) => [item, list]);
  return ctx.memoOfCatalog(`choices ${asJson(asked)} ${asJson(builds)} ${ctx.today}`, async () => {
    const lists = await ctx.sql.all<{ product: number; id: number; name: string }>(
      `SELECT l.product_id AS product, l.id, l.name FROM json_each($ids) ids JOIN list_head l ON l.product_id = ids.value
        ORDER BY l.main DESC, l.name_key`,
      { ids: asJson(products) },
    );
    const product = await itemsById(ctx, products);
    const found = await listsFor(
      ctx,
      demands.map(({ item, list }) => ({
        product: product(item),
        choice: { list, options: [], asBuilt: null, own: null },
        day: ctx.today,
      })),
    );
    const lines = found.map((list) => list?.withAllOptions.lines ?? []);
    const allowed = lines.map((own) =>
      own.flatMap((line) => line.substitutes.map((s) => ({ part: line.item, by: s.item }))),
    );
    const optional = lines.map((own) => own.filter((line) => line.optional).map((line) => line.item));
    const brief = await briefs(ctx, [...allowed.flat().map((a) => a.by), ...optional.flat()]);
    const numbers =
      builds.length === 0
        ? []
        : await ctx.sql.all<{ id: number; number: string }>(
            "SELECT b.id, b.number FROM json_each($ids) ids JOIN build_head b ON b.id = ids.value",
            { ids: asJson(builds) },
          );
    return {
      builds: new Map(numbers.map((row) => [row.id, row.number])),
      lists: byProduct(lists),
      options: optional.map((items) => [...new Set(items)].map((item) => ({ item, name: brief(item).name }))),
      substitutes: allowed.map((own) => own.map((a) => ({ ...a, name: brief(a.by).name }))),
    };
  });
}

function byProduct<T extends { product: number }>(rows: readonly T[]): Map<number, Omit<T, "product">[]> {
  const found = new Map<number, Omit<T, "product">[]>();
  for (const { product, ...row } of rows) found.set(product, [...(found.get(product) ?? []), row]);
  return found;
}

function partAnswer(
  part: PartCover,
  answer: Cover,
  { factsOf }: LoadedQuestion,
  today: Day,
): PartCoverAnswer {
  const facts = factsOf(part.item);
  const single = answer.demands.length === 1 ? answer.demands[0] : undefined;
  const taken = single?.parts.find((p) => p.item === part.item);
  const { brief } = facts;
  // Every field by itself: V8 keeps what is spread among so many properties in a slow form.
  return {
    id: brief.id,
    code: brief.code,
    name: brief.name,
    kind: brief.kind,
    tracking: brief.tracking,
    unit: brief.unit,
    decimals: brief.decimals,
    state: brief.state,
    notStockTracked: brief.notStockTracked,
    packs: brief.packs,
    thumbnail: brief.thumbnail,
    bin: facts.bin,
    need: part.need.toFixed(),
    stocked: part.stocked,
    onHand: part.onHand.toFixed(),
    expired: part.expired.toFixed(),
    reserved: part.reserved.toFixed(),
    free: part.free.toFixed(),
    incoming: facts.coming.map((c) => incomingAnswer(c, today)),
    incomingTotal: part.incoming.toFixed(),
    shortNow: part.shortNow.toFixed(),
    shortOnDay: part.shortOnDay.toFixed(),
    leftOver: part.leftOver.toFixed(),
    day: part.day,
    freshDay: part.freshDay,
    orderBy: part.orderBy,
    supplier: facts.offer === null ? null : facts.supplier,
    canBeBuilt: facts.recipe !== null,
    shortTogether: part.shortTogether,
    tooLate: part.tooLate.map((claim) => ({
      document: documentOf(claim, facts),
      quantity: claim.quantity.toFixed(),
      day: claim.day,
    })),
    // How far a part reaches is told in units of the product, so only where one product is asked for.
    reach: taken ? figure(taken.reach) : null,
    reachInTime: taken ? figure(taken.reachInTime()) : null,
    limiting: single?.limiting.includes(part.item) ?? false,
  };
}

const incomingAnswer = ({ key, document, purchase, build, quantity, day }: Coming, today: Day) => ({
  key,
  document,
  purchase,
  build,
  day,
  quantity: quantity.toFixed(),
  overdue: day !== null && day < today,
});

const documentOf = (claim: Claim, facts: ItemFacts): string =>
  facts.coming.find((c) => c.key === claim.key)?.document ?? claim.key;

/** What so many by a list of a product, its main one where none is named, are expected to cost, and how much work they take. */
export async function expectedOf(
  ctx: Reading,
  id: number,
  { quantity, list: named }: ParsedQuery<typeof routes.expected>,
): Promise<ExpectedAnswer> {
  const product = await productById(ctx, id);
  const list = named === undefined ? (await loadLists(ctx, [id])).get(id) : await namedListOf(ctx, id, named);
  if (!list) return { work: [], cost: { total: "0.0000", each: "0.0000", unknown: [product.code] } };
  const items = list.lines.map((line) => line.item);
  const cost = listCost(list, quantity, await currentCosts(ctx, items));
  const brief = await briefs(ctx, items);
  const started = startFor(list, quantity);
  return {
    work: list.lines
      .filter((line) => line.service)
      .map((line) => ({
        name: brief(line.item).name,
        quantity: lineNeed(line, list.makes, started).toFixed(),
        unit: needUnit(line).code,
      })),
    cost: {
      total: cost.total.toFixed(4),
      each: cost.each.toFixed(4),
      unknown: cost.unknown.map((item) => brief(item).code),
    },
  };
}

const namedListOf = async (ctx: Reading, product: number, list: number) =>
  (await listFor(ctx, await itemById(ctx, product), { list, options: [], asBuilt: null, own: null })).taken;

/** How many of the first product could be finished by a day; the others are served as they are asked for. */
export async function mostByDay(ctx: Reading, question: QuestionInput, day: Day): Promise<string | null> {
  return solve(ctx, question, (answer) => {
    const [first] = answer.demands;
    return first !== undefined && finishedBy({ ...answer, finish: first.finish }, day);
  });
}

/** How many of the first product could be made if at most so much is spent on parts that are missing. */
export async function mostForSum(
  ctx: Reading,
  question: QuestionInput,
  sum: Decimal,
): Promise<string | null> {
  return solve(ctx, question, (answer) => affordable(answer, sum, ctx.currencyDecimals));
}

async function solve(
  ctx: Reading,
  question: QuestionInput,
  fits: (answer: Cover) => boolean,
): Promise<string | null> {
  const loaded = await readQuestion(ctx, question);
  const [first] = loaded.demands;
  if (!first) throw new Error("A question has a demand");
  const most = mostThat(loaded.factsOf(first.item).brief, (n: Decimal) =>
    n.eq(0) ? true : fits(answerTo(withQuantity(loaded, n), ctx.today)),
  );
  return figure(most);
}

/** Something that happens to an item's stock, by a document, or by what is asked for. */
interface Happening extends StockChange {
  document: string;
  purchase: number | null;
  build: number | null;
  order: number | null;
}

/** One item's stock day by day: every receipt, every need of an open document, and what is asked for. */
export async function timelineOf(ctx: Reading, question: QuestionInput, item: number): Promise<PartTimeline> {
  const loaded = await readQuestion(ctx, question, [item]);
  const { brief, stock, level, coming } = loaded.factsOf(item);
  const happening = [
    ...coming.map(({ document, purchase, build, day, quantity }): Happening => {
      const change = quantityToScaled(quantity);
      return { document, purchase, build, order: null, day, change };
    }),
    ...(await openNeeds(ctx, item, loaded)),
    ...loaded.demands.map((demand) => demanded(demand, item)),
  ].filter(({ change }) => change !== 0);
  const usable = quantityToScaled(stock.onHand) - quantityToScaled(stock.expired);
  const line = timeline(usable, happening, level, ctx.today);
  const eventAnswer = ({ document, purchase, build, order, change }: Happening) => ({
    document,
    purchase,
    build,
    order,
    change: quantityFromScaled(change).toFixed(),
  });
  return {
    item: brief,
    level: level === null ? null : quantityFromScaled(level).toFixed(),
    days: line.days.map((d) => ({
      day: d.day,
      stock: quantityFromScaled(d.stock).toFixed(),
      events: d.changes.map(eventAnswer),
    })),
    undated: line.undated.map(eventAnswer),
    firstBelowZero: line.firstShort,
    firstBelowLevel: line.firstLow,
  };
}

/** What a demand takes of an item; it has no document yet. */
function demanded(demand: Demand, item: number): Happening {
  const { list, progress = null } = demand;
  const lines = list.lines.filter((line) => line.item === item && line.stocked);
  const need = needOf(lines, list.makes, progress, unitsFor(demand));
  return {
    document: "",
    purchase: null,
    build: null,
    order: null,
    day: startDay(demand),
    change: -quantityToScaled(need),
  };
}

/** What open builds and orders still take of an item, on the day builds have to start and orders are due. */
async function openNeeds(ctx: Reading, item: number, { scope }: LoadedQuestion): Promise<Happening[]> {
  const rows = await ctx.sql.all<Omit<Happening, "purchase" | "change"> & { quantity: number }>(
    `SELECT build_id AS build, order_id AS "order", number AS document, day, SUM(quantity) AS quantity
       FROM reservation WHERE ${scoped(scope, "documents")} GROUP BY 1, 2, 3, 4 ORDER BY 2, 1`,
    { ids: asJson([item]), ...scopeBinds(scope) },
  );
  return rows.map(({ quantity, ...row }) => ({ ...row, purchase: null, change: -quantity }));
}
