import type {
  CoverAnswer,
  CoverQuestion,
  DemandCoverAnswer,
  ExpectedAnswer,
  ItemBrief,
  PartCoverAnswer,
  PartTimeline,
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
  decimal,
  finishedBy,
  free,
  itemNeed,
  lineNeed,
  lineTotal,
  listCost,
  max,
  mostThat,
  needUnit,
  type PartCover,
  quantityFromWhole,
  type Reach,
  type StockEvent,
  spending,
  startDay,
  startFor,
  timeline,
  ZERO,
} from "@yosegi/core";
import { briefs, currentCosts, loadLists, productById } from "../catalog/index.ts";
import { asJson, type Reading } from "../db/index.ts";
import type { Coming, ItemFacts } from "./facts.ts";
import { type Asked, readQuestion, supplyOf, withQuantity } from "./question.ts";

/** Whether stock and what comes cover what is wanted (docs/rules.md § 3 and § 4). */
export async function coverOf(ctx: Reading, question: CoverQuestion): Promise<CoverAnswer> {
  const asked = await readQuestion(ctx, question);
  const answer = answerTo(asked, ctx.today);
  return {
    demands: await demandAnswers(ctx, question, asked, answer),
    parts: answer.parts.map((part) => partAnswer(part, answer, asked, ctx.today)),
    orders: answer.orders.map((order) => {
      const { brief, supplier } = asked.factsOf(order.item);
      const price = order.offer?.price ?? null;
      return {
        item: brief,
        supplier: order.offer === null ? null : supplier,
        short: order.short.toFixed(),
        quantity: order.quantity.toFixed(),
        price: price?.toFixed() ?? null,
        cost: price === null ? null : lineTotal(order.quantity, price).toFixed(2),
        orderBy: order.orderBy,
        arrives: order.offer === null ? null : arrivesBy(ctx.today, order.offer),
        for: order.for.map((f) => ({ demand: f.demand, quantity: f.quantity.toFixed() })),
      };
    }),
    builds: answer.builds.map((build) => ({
      item: asked.factsOf(build.item).brief,
      quantity: build.quantity.toFixed(),
      makesNow: figure(build.makesNow),
      finish: build.finish,
      needed: build.needed,
    })),
    finish: answer.finish,
    spending: spending(answer)?.toFixed(2) ?? null,
  };
}

const answerTo = (asked: Asked, today: Day): Cover => cover(asked.demands, supplyOf(asked), today);
const figure = (reach: Reach): string | null => (reach === "no limit" ? null : reach.toFixed());

async function demandAnswers(
  ctx: Reading,
  question: CoverQuestion,
  asked: Asked,
  answer: Cover,
): Promise<DemandCoverAnswer[]> {
  const more = await choices(ctx, question);
  return answer.demands.map((d, i) => {
    const wanted = question.demands[i];
    const { demand, parts } = d;
    const own = more.builds.get(wanted?.build ?? 0);
    return {
      item: asked.factsOf(demand.item).brief,
      wanted: demand.quantity.toFixed(),
      started: d.started.toFixed(),
      day: demand.day,
      startDay: d.startDay,
      priority: demand.priority,
      build: wanted?.build && own ? { id: wanted.build, number: own } : null,
      makesNow: figure(d.makesNow),
      limiting: d.limiting,
      finish: d.finish,
      unknown: parts.filter((part) => part.day === null).map((part) => part.item),
      finishedFree: max(ZERO, free(asked.factsOf(demand.item).stock)).toFixed(),
      short: parts.filter((part) => part.shortNow.gt(0)).map((part) => part.item),
      list: wanted?.list ?? null,
      lists: more.lists.get(demand.item) ?? [],
      substitutes: (more.substitutes.get(demand.item) ?? []).map((s) => ({
        ...s,
        chosen: wanted?.instead.some((w) => w.part === s.part && w.by === s.by) ?? false,
      })),
    };
  });
}

interface Choices {
  builds: Map<number, string>;
  lists: Map<number, { id: number; name: string }[]>;
  substitutes: Map<number, { part: number; by: number; name: string }[]>;
}

/** What may be chosen for the products asked for: other lists, and substitutes of their parts. Asked for anew only after a change. */
async function choices(ctx: Reading, { demands }: CoverQuestion): Promise<Choices> {
  const products = [...new Set(demands.map((d) => d.item))];
  const builds = demands.flatMap((d) => d.build ?? []);
  return ctx.memo(`choices ${asJson(products)} ${asJson(builds)} ${ctx.today}`, async () => {
    const lists = await ctx.sql.all<{ product: number; id: number; name: string }>(
      `SELECT l.product_id AS product, l.id, l.name FROM json_each($ids) ids JOIN parts_list l ON l.product_id = ids.value
        ORDER BY l.main DESC, l.name_key`,
      { ids: asJson(products) },
    );
    const mains = await loadLists(ctx, products);
    const allowed = [...mains].flatMap(([product, list]) =>
      list.lines.flatMap((line) => line.substitutes.map((s) => ({ product, part: line.item, by: s.item }))),
    );
    const brief = await briefs(
      ctx,
      allowed.map((a) => a.by),
    );
    const numbers =
      builds.length === 0
        ? []
        : await ctx.sql.all<{ id: number; number: string }>(
            "SELECT b.id, b.number FROM json_each($ids) ids JOIN build b ON b.id = ids.value",
            { ids: asJson(builds) },
          );
    return {
      builds: new Map(numbers.map((row) => [row.id, row.number])),
      lists: byProduct(lists),
      substitutes: byProduct(allowed.map((a) => ({ ...a, name: brief(a.by).name }))),
    };
  });
}

function byProduct<T extends { product: number }>(rows: readonly T[]): Map<number, Omit<T, "product">[]> {
  const found = new Map<number, Omit<T, "product">[]>();
  for (const { product, ...row } of rows) found.set(product, [...(found.get(product) ?? []), row]);
  return found;
}

function partAnswer(part: PartCover, answer: Cover, { factsOf }: Asked, today: Day): PartCoverAnswer {
  const facts = factsOf(part.item);
  const [only, ...others] = answer.demands;
  const single = others.length === 0 ? only : undefined;
  const taken = single?.parts.find((p) => p.item === part.item);
  // Every field by itself: V8 keeps what is spread among so many properties in a slow form.
  const told: Omit<PartCoverAnswer, keyof ItemBrief> = {
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
    reachInTime: taken ? figure(taken.reachInTime) : null,
    limiting: single?.limiting.includes(part.item) ?? false,
  };
  return Object.assign({ ...facts.brief }, told);
}

const incomingAnswer = ({ key, document, purchase, build, quantity, day }: Coming, today: Day) => ({
  ...{ key, document, purchase, build, day },
  quantity: quantity.toFixed(),
  overdue: day !== null && day < today,
});

const documentOf = (claim: Claim, facts: ItemFacts): string =>
  facts.coming.find((c) => c.key === claim.key)?.document ?? claim.key;

/** What so many are expected to cost, and how much work they take. */
export async function expectedOf(ctx: Reading, id: number, quantity: string): Promise<ExpectedAnswer> {
  const product = await productById(ctx, id);
  const list = (await loadLists(ctx, [product.id])).get(product.id);
  if (!list) return { work: [], cost: { total: "0.0000", each: "0.0000", unknown: [product.code] } };
  const wanted = decimal(quantity);
  const items = list.lines.map((line) => line.item);
  const cost = listCost(list, wanted, await currentCosts(ctx, items));
  const brief = await briefs(ctx, items);
  const started = startFor(list, wanted);
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

/** How many of the first product could be finished by a day; the others are served as they are asked for. */
export async function mostByDay(ctx: Reading, question: CoverQuestion, day: Day): Promise<string | null> {
  return solve(ctx, question, (answer) => {
    const [first] = answer.demands;
    return first !== undefined && finishedBy({ ...answer, finish: first.finish }, day);
  });
}

/** How many of the first product could be made if at most so much is spent on parts that are missing. */
export async function mostForSum(ctx: Reading, question: CoverQuestion, sum: string): Promise<string | null> {
  return solve(ctx, question, (answer) => affordable(answer, decimal(sum)));
}

async function solve(
  ctx: Reading,
  question: CoverQuestion,
  fits: (answer: Cover) => boolean,
): Promise<string | null> {
  const asked = await readQuestion(ctx, question);
  const [first] = asked.demands;
  if (!first) throw new Error("A question has a demand");
  const most = mostThat(asked.factsOf(first.item).brief, (n: Decimal) =>
    n.eq(0) ? true : fits(answerTo(withQuantity(asked, n), ctx.today)),
  );
  return figure(most);
}

/** One item's stock day by day: every receipt, every need of a queued build, and what is asked for. */
export async function timelineOf(ctx: Reading, question: CoverQuestion, item: number): Promise<PartTimeline> {
  const asked = await readQuestion(ctx, question, [item]);
  const { brief, stock, level, coming } = asked.factsOf(item);
  const happening = [
    ...coming.map((c) => ({ ...c, order: null, change: c.quantity })),
    ...(await openNeeds(ctx, item, asked)),
    ...asked.demands.map((demand) => demanded(demand, item)),
  ].filter(({ change }) => !change.eq(0));
  const events = happening.map(({ day, change }, i): StockEvent => ({ key: String(i), day, change }));
  const line = timeline(stock.onHand.minus(stock.expired), events, level, ctx.today);
  const told = ({ key, change }: StockEvent) => {
    const { document = "", purchase = null, build = null, order = null } = happening[Number(key)] ?? {};
    return { document, purchase, build, order, change: change.toFixed() };
  };
  return {
    item: brief,
    level: level?.toFixed() ?? null,
    days: line.days.map((d) => ({ day: d.day, stock: d.stock.toFixed(), events: d.events.map(told) })),
    undated: line.undated.map(told),
    firstBelowZero: line.firstBelowZero,
    firstBelowLevel: line.firstBelowLevel,
  };
}

/** What a demand takes of an item; it has no document yet. */
function demanded(demand: Demand, item: number) {
  const lines = demand.list.lines.filter((line) => line.item === item && line.stocked);
  const need = itemNeed(lines, demand.list.makes, startFor(demand.list, demand.quantity));
  return {
    document: "",
    purchase: null,
    build: null,
    order: null,
    day: startDay(demand),
    change: ZERO.minus(need),
  };
}

/** What queued builds and open orders still take of an item, on the day builds have to start and orders are due. */
async function openNeeds(ctx: Reading, item: number, { scope }: Asked) {
  const rows = await ctx.sql.all<{
    build: number | null;
    order: number | null;
    document: string;
    due: Day | null;
    days: number;
    open: number;
  }>(
    `SELECT b.id AS build, NULL AS "order", b.number AS document, b.due, COALESCE(i.build_days, 0) AS days, SUM(l.open) AS open
       FROM build_line l JOIN build b ON b.id = l.build_id JOIN item i ON i.id = b.product_id
      WHERE l.item_id = $item AND l.open > 0 AND b.id NOT IN (SELECT value FROM json_each($own)) GROUP BY b.id
      UNION ALL
     SELECT NULL, o.id, o.number, o.due, 0, SUM(t.open)
       FROM sales_take t JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id
      WHERE t.item_id = $item AND t.open > 0 GROUP BY o.id ORDER BY 2, 1`,
    { item, own: asJson(scope.own) },
  );
  return rows.map(({ build, order, document, due, days, open }) => ({
    ...{ document, purchase: null, build, order },
    day: startDay({ day: due, buildDays: days }),
    change: ZERO.minus(quantityFromWhole(open)),
  }));
}
