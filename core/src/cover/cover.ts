import { addDays, type Day, type Decimal, max, sum, ZERO } from "../amounts/index.ts";
import {
  arrivesBy,
  type Offer,
  type OnDraft,
  orderBy,
  quantityToBuild,
  quantityToOrder,
} from "../buying/index.ts";
import type { ListLine } from "../lists/index.ts";
import { free, type StockFigures } from "../stock/index.ts";
import {
  type Claim,
  type Demand,
  type Given,
  inTurn,
  later,
  type Recipe,
  type Supply,
  SupplyPool,
  startDay,
  unitsFor,
} from "./demand.ts";
import { linesByItem, needOf, type Reach, reach, smallest } from "./reach.ts";

/** What one demand takes of one part, when its turn has come. */
export interface DemandPart {
  item: number;
  stocked: boolean;
  need: Decimal;
  /** Units of the product that what is free then allows. */
  reach: Reach;
  /** Units that what comes in time allows besides; figured when it is asked for, for few answers tell it. */
  reachInTime: () => Reach;
  fromFree: Decimal;
  claims: Claim[];
  /** What free stock does not cover, the gap included that was there before. */
  shortNow: Decimal;
  /** What of that nothing covers that comes until the start day; where no day is wanted, that nothing covers at all. */
  shortOnDay: Decimal;
  /** What neither free stock nor anything on its way covers: to be ordered or built. */
  uncovered: Decimal;
  /** When the part is there; null: nobody can say. */
  day: Day | null;
  /** When it would be there by a fresh order, where that is sooner than what comes. */
  freshDay: Day | null;
  /** Last day to order, or to start the build of, what is uncovered; null where there is nothing to, or none can be told. */
  orderBy: Day | null;
  /** The build that the part needs first; null where it is bought, or covered. */
  first: DemandCover | null;
}

/** The answer to one demand. */
export interface DemandCover {
  demand: Demand;
  /** Units to start so that as many come out good. */
  started: Decimal;
  /** When parts must be there. */
  startDay: Day | null;
  makesNow: Reach;
  /** Parts with that reach. */
  limiting: number[];
  parts: DemandPart[];
  /** The day on which all of it can be finished; null: nobody can say. */
  finish: Day | null;
}

/** One part over all demands. */
export interface PartCover extends StockFigures {
  item: number;
  stocked: boolean;
  need: Decimal;
  free: Decimal;
  /** All that is on its way, and what of it comes until the day the part is needed first. */
  incoming: Decimal;
  shortNow: Decimal;
  shortOnDay: Decimal;
  /** What stays free after all demands. */
  leftOver: Decimal;
  day: Day | null;
  freshDay: Day | null;
  orderBy: Day | null;
  /** Enough for each demand alone, and not for all of them. */
  shortTogether: boolean;
  /** Claimed of what comes after it is needed: to be asked for sooner. */
  tooLate: Claim[];
}

/** What is to be ordered, one line a part over all demands. */
export interface SuggestedOrder {
  item: number;
  offer: Offer | null;
  short: Decimal;
  /** Raised to the supplier's minimum and multiple, less what stands on drafts already. */
  quantity: Decimal;
  drafts: readonly OnDraft[];
  orderBy: Day | null;
  for: { demand: number; quantity: Decimal }[];
}

/** What is to be built first because a part that is built itself is short. */
export interface SuggestedBuild {
  item: number;
  /** What is short of it. */
  short: Decimal;
  /** What is to be built, less what stands on drafts already. */
  quantity: Decimal;
  drafts: readonly OnDraft[];
  /** How many of it could be made at once. */
  makesNow: Reach;
  finish: Day | null;
  /** When it must be there for the first that needs it. */
  needed: Day | null;
  for: { demand: number; quantity: Decimal }[];
}

export interface Cover {
  /** In the order in which they were asked. */
  demands: DemandCover[];
  /** Every part, in the order in which it is first named. */
  parts: PartCover[];
  orders: SuggestedOrder[];
  builds: SuggestedBuild[];
  /** The day on which everything can be finished; null: nobody can say. */
  finish: Day | null;
}

/** Whether stock and what comes cover all demands, served in turn, and what is to be done about it (docs/rules.md § 4). */
export function cover(demands: readonly Demand[], supplyOf: (item: number) => Supply, today: Day): Cover {
  const serving: Serving = { pool: new SupplyPool(supplyOf, today), supplyOf, today, reaches: true };
  const answers = new Map(
    inTurn(demands).map((demand) => [demand, serve(demand, serving, new Set([demand.item]))]),
  );
  const inOrder = demands.flatMap((demand) => answers.get(demand) ?? []);
  return {
    demands: inOrder,
    parts: partsOf(inOrder, supplyOf),
    orders: ordersOf(inOrder, supplyOf),
    builds: buildsOf(inOrder, supplyOf),
    finish: inOrder.map((d) => d.finish).reduce(later, today),
  };
}

/** What demands are served from, one after the other. */
export interface Serving {
  pool: SupplyPool;
  supplyOf: (item: number) => Supply;
  today: Day;
  /** Whether it is to be said how far stock reaches, which only a check tells. */
  reaches: boolean;
}

/** What one part of a demand asks for, and what it got in its turn. */
interface Allocation extends Pick<DemandPart, "item" | "stocked" | "need" | "reach" | "reachInTime"> {
  given: Given | null;
}

/**
 * Serves one demand: all of its own parts first, then the builds that short ones of them need, one after the other, each
 * down to its last part. `path` are the products above it, so that lists that lead in a circle come to an end.
 */
function serve(demand: Demand, serving: Serving, path: ReadonlySet<number>): DemandCover {
  const { list, progress = null } = demand;
  const started = unitsFor(demand);
  const start = startDay(demand);
  const byItem = [...linesByItem(list.lines.filter((line) => !line.service))];
  const reaches = byItem.map(([item, lines]) =>
    serving.reaches ? reachOf(item, lines, demand, start, serving.pool) : NO_LIMIT,
  );
  const makesNow = smallest(reaches.map((r) => r.now));
  const own = byItem.map(([item, lines], i): Allocation => {
    const need = needOf(lines, list.makes, progress, started);
    const stocked = lines[0]?.stocked ?? false;
    const { now, inTime } = reaches[i] ?? NO_LIMIT;
    const given = stocked ? serving.pool.allocate(item, need) : null;
    return { item, stocked, need, reach: now, reachInTime: inTime, given };
  });
  const parts = own.map((part) => partOf(part, start, serving, path));
  const last = parts.map((part) => part.day).reduce(later, serving.today);
  return {
    demand,
    started,
    startDay: start,
    makesNow,
    limiting:
      makesNow === "no limit"
        ? []
        : parts.filter((p) => p.reach !== "no limit" && p.reach.eq(makesNow)).map((p) => p.item),
    parts,
    finish: last === null ? null : addDays(last, demand.buildDays),
  };
}

const NO_LIMIT: { now: Reach; inTime: () => Reach } = { now: "no limit", inTime: () => "no limit" };

function reachOf(
  item: number,
  lines: readonly ListLine[],
  { list, progress = null }: Demand,
  start: Day | null,
  pool: SupplyPool,
) {
  if (!lines[0]?.stocked) return NO_LIMIT;
  const left = pool.free(item);
  const coming = pool.comingUntil(item, start);
  const now = reach(lines, list, left, progress);
  return {
    now,
    inTime: () => (coming.length === 0 ? now : reach(lines, list, left.plus(sum(coming)), progress)),
  };
}

/** When a part is there by what it got, and the build that it needs first where it is built and short. */
function partOf(
  { item, stocked, need, reach: now, reachInTime, given }: Allocation,
  start: Day | null,
  serving: Serving,
  path: ReadonlySet<number>,
): DemandPart {
  const { fromFree, claims, uncovered } = given ?? NOTHING_GIVEN;
  const shortNow = sum(claims.map((c) => c.quantity)).plus(uncovered);
  const inTime = claims.filter((c) => start === null || (c.day !== null && c.day <= start));
  const arrival = arrivalOf(item, { claims, uncovered }, start, serving, path);
  return {
    item,
    stocked,
    need,
    reach: now,
    reachInTime,
    fromFree,
    claims,
    shortNow,
    shortOnDay: shortNow.minus(sum(inTime.map((c) => c.quantity))),
    uncovered,
    orderBy: lastDay(uncovered, start, arrival.first, serving.supplyOf(item).offer),
    ...arrival,
  };
}

/** When an item is there, by what comes for it and what is to be ordered or built. */
export type Arrival = Pick<DemandPart, "day" | "freshDay" | "first">;

/**
 * The day on which an item is there that was given so much, needed on `start`: the last of what comes for it, and of a fresh order
 * or a build of what is not covered, which takes its own parts from the same supply (docs/rules.md § 4). `path` are the products
 * that it is for.
 */
export function arrivalOf(
  item: number,
  { claims, uncovered }: Pick<Given, "claims" | "uncovered">,
  start: Day | null,
  serving: Serving,
  path: ReadonlySet<number>,
): Arrival {
  const { supplyOf, today } = serving;
  const { offer, recipe } = supplyOf(item);
  const arrived = claims.map((c) => c.day).reduce(later, today);
  const fresh = (claims.length === 0 && uncovered.eq(0)) || offer === null ? null : arrivesBy(today, offer);
  const own =
    uncovered.gt(0) && recipe !== null && !path.has(item)
      ? demandFor(item, uncovered, start, recipe, today)
      : null;
  const first = own && serve(own, serving, new Set([...path, item]));
  return {
    day: uncovered.eq(0) ? arrived : later(arrived, first ? first.finish : fresh),
    freshDay: claims.length > 0 && fresh !== null && (arrived === null || fresh < arrived) ? fresh : null,
    first,
  };
}

/** A short part that is built as a demand of its own; null where it has no list on the day its build starts. */
function demandFor(
  item: number,
  quantity: Decimal,
  day: Day | null,
  { listOn, buildDays }: Recipe,
  today: Day,
): Demand | null {
  const start = startDay({ day, buildDays });
  const list = listOn(start === null || start < today ? today : start);
  return list && { key: 0, item, quantity, day, priority: 1, list, buildDays };
}

/** What is not kept on the books needs no stock. */
const NOTHING_GIVEN = { fromFree: ZERO, claims: [], uncovered: ZERO };

function lastDay(
  uncovered: Decimal,
  start: Day | null,
  first: DemandCover | null,
  offer: Offer | null,
): Day | null {
  if (uncovered.eq(0) || start === null) return null;
  if (first) return first.startDay;
  return offer === null ? null : orderBy(start, offer);
}

/** The earlier of two days, where null says nothing. */
const sooner = (a: Day | null, b: Day | null): Day | null => (a === null ? b : b === null || a < b ? a : b);

/** A part wherever a demand takes it, and when it is needed there. */
interface StockPick {
  demand: DemandCover;
  part: DemandPart;
  start: Day | null;
}

/** The parts on the demands' own lists; what the builds made first take of one of them is added to its row. */
function partsOf(demands: readonly DemandCover[], supplyOf: (item: number) => Supply): PartCover[] {
  const byItem = new Map<number, StockPick[]>();
  for (const { parts } of demands) for (const { item } of parts) byItem.set(item, []);
  for (const demand of demands)
    for (const taken of takenBy(demand, demand)) byItem.get(taken.part.item)?.push(taken);
  return [...byItem].map(([item, taken]) => partCover(item, taken, supplyOf(item)));
}

function partCover(item: number, taken: readonly StockPick[], { stock, incoming }: Supply): PartCover {
  const freeQuantity = free(stock);
  const all = taken.map(({ part }) => part);
  const need = sum(all.map((part) => part.need));
  const stocked = all.some((part) => part.stocked);
  const needs = new Map<DemandCover, Decimal>();
  for (const { demand, part } of taken) needs.set(demand, (needs.get(demand) ?? ZERO).plus(part.need));
  return {
    onHand: stock.onHand,
    expired: stock.expired,
    reserved: stock.reserved,
    item,
    stocked,
    need,
    free: freeQuantity,
    incoming: sum(incoming.map((i) => i.quantity)),
    shortNow: sum(all.map((part) => part.shortNow)),
    shortOnDay: sum(all.map((part) => part.shortOnDay)),
    leftOver: stocked ? max(ZERO, freeQuantity.minus(sum(all.map((part) => part.fromFree)))) : ZERO,
    day: all.map((part) => part.day).reduce(later),
    freshDay: all.map((part) => part.freshDay).reduce(sooner, null),
    orderBy: all.map((part) => part.orderBy).reduce(sooner, null),
    shortTogether:
      stocked &&
      needs.size > 1 &&
      need.gt(freeQuantity) &&
      [...needs.values()].every((own) => own.lte(freeQuantity)),
    tooLate: taken.flatMap(({ part, start }) =>
      part.claims.filter((c) => start !== null && (c.day === null || c.day > start)),
    ),
  };
}

/** Every part that a demand takes, those of the builds made first for it among them. */
function takenBy(demand: DemandCover, at: DemandCover): StockPick[] {
  return at.parts.flatMap((part) => [
    { demand, part, start: at.startDay },
    ...(part.first ? takenBy(demand, part.first) : []),
  ]);
}

function ordersOf(demands: readonly DemandCover[], supplyOf: (item: number) => Supply): SuggestedOrder[] {
  const orders = new Map<number, SuggestedOrder>();
  for (const answer of demands)
    for (const { part } of takenBy(answer, answer)) {
      const { item, uncovered, orderBy: by, first } = part;
      if (uncovered.eq(0) || first !== null) continue;
      const { offer, drafts } = supplyOf(item);
      const order = orders.get(item) ?? {
        item,
        offer,
        short: ZERO,
        quantity: ZERO,
        drafts,
        orderBy: null,
        for: [],
      };
      order.short = order.short.plus(uncovered);
      order.orderBy = sooner(order.orderBy, by);
      addFor(order.for, answer.demand.key, uncovered);
      orders.set(item, order);
    }
  return [...orders.values()].map((order) => ({
    ...order,
    quantity: quantityToOrder(order.short, order.offer, order.drafts),
  }));
}

function buildsOf(demands: readonly DemandCover[], supplyOf: (item: number) => Supply): SuggestedBuild[] {
  const builds = new Map<number, SuggestedBuild>();
  for (const answer of demands)
    for (const { part } of takenBy(answer, answer)) {
      const { item, first } = part;
      if (first === null) continue;
      const { quantity, day } = first.demand;
      const known = builds.get(item);
      // The first that asks meets the most stock: what it finds can be made at once.
      const build = known ?? {
        item,
        short: ZERO,
        quantity: ZERO,
        drafts: supplyOf(item).drafts,
        makesNow: first.makesNow,
        finish: first.finish,
        needed: day,
        for: [],
      };
      build.short = build.short.plus(quantity);
      build.finish = known ? later(build.finish, first.finish) : first.finish;
      build.needed = sooner(build.needed, day);
      addFor(build.for, answer.demand.key, quantity);
      builds.set(item, build);
    }
  return [...builds.values()].map((build) => ({
    ...build,
    quantity: quantityToBuild(build.short, build.drafts),
  }));
}

function addFor(list: { demand: number; quantity: Decimal }[], demand: number, quantity: Decimal): void {
  const known = list.find((f) => f.demand === demand);
  if (known) known.quantity = known.quantity.plus(quantity);
  else list.push({ demand, quantity });
}
