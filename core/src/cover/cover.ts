import { addDays, type Day, type Decimal, max, sum, ZERO } from "../amounts/index.ts";
import { arrivesBy, type Offer, orderBy, toOrder } from "../buying/index.ts";
import { itemNeed, type ListLine, startFor } from "../catalog/index.ts";
import { free, type StockFigures } from "./check.ts";
import { type Claim, type Demand, inTurn, later, Shelf, type Supply, startDay } from "./demand.ts";
import { linesByItem, type Reach, reach, smallest } from "./reach.ts";

/** What one demand takes of one part, when its turn has come. */
export interface DemandPart {
  item: number;
  stocked: boolean;
  need: Decimal;
  /** Units of the product that what is free then allows. */
  reach: Reach;
  /** Units that what comes in time allows besides. */
  reachInTime: Reach;
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
export interface ToOrder {
  item: number;
  offer: Offer | null;
  short: Decimal;
  /** Raised to the supplier's minimum and multiple. */
  quantity: Decimal;
  orderBy: Day | null;
  for: { demand: number; quantity: Decimal }[];
}

/** What is to be built first because a part that is built itself is short. */
export interface ToBuild {
  item: number;
  quantity: Decimal;
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
  orders: ToOrder[];
  builds: ToBuild[];
  /** The day on which everything can be finished; null: nobody can say. */
  finish: Day | null;
}

/** Whether stock and what comes cover all demands, served in turn, and what is to be done about it (docs/rules.md § 4). */
export function cover(demands: readonly Demand[], supplyOf: (item: number) => Supply, today: Day): Cover {
  const serving: Serving = { shelf: new Shelf(supplyOf, today), supplyOf, today };
  const answers = new Map(
    inTurn(demands).map((demand) => [demand, serve(demand, serving, new Set([demand.item]))]),
  );
  const inOrder = demands.flatMap((demand) => answers.get(demand) ?? []);
  return {
    demands: inOrder,
    parts: partsOf(inOrder, supplyOf),
    orders: ordersOf(inOrder, supplyOf),
    builds: buildsOf(inOrder),
    finish: inOrder.map((d) => d.finish).reduce(later, today),
  };
}

interface Serving {
  shelf: Shelf;
  supplyOf: (item: number) => Supply;
  today: Day;
}

/** Serves one demand; `path` are the products above it, so that lists that lead in a circle come to an end. */
function serve(demand: Demand, serving: Serving, path: ReadonlySet<number>): DemandCover {
  const { list, quantity } = demand;
  const started = startFor(list, quantity);
  const start = startDay(demand);
  const byItem = [...linesByItem(list.lines.filter((line) => !line.service))];
  const reaches = byItem.map(([item, lines]) => reachOf(item, lines, demand, start, serving.shelf));
  const makesNow = smallest(reaches.map((r) => r.now));
  const parts = byItem.map(([item, lines], i) => {
    const need = itemNeed(lines, list.makes, started);
    const stocked = lines[0]?.stocked ?? false;
    const [now, inTime] = [reaches[i]?.now ?? "no limit", reaches[i]?.inTime ?? "no limit"];
    const told = { item, stocked, need, reach: now, reachInTime: inTime };
    return stocked ? servePart(told, start, serving, path) : { ...told, ...UNCOUNTED, day: serving.today };
  });
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

const UNCOUNTED = {
  ...{ fromFree: ZERO, claims: [], shortNow: ZERO, shortOnDay: ZERO, uncovered: ZERO },
  ...{ freshDay: null, orderBy: null, first: null },
};

function reachOf(
  item: number,
  lines: readonly ListLine[],
  { list }: Demand,
  start: Day | null,
  shelf: Shelf,
) {
  if (!lines[0]?.stocked) return { now: "no limit", inTime: "no limit" } as const;
  const left = shelf.free(item);
  const coming = shelf.comingUntil(item, start);
  const now = reach(lines, list, left);
  return { now, inTime: coming.eq(0) ? now : reach(lines, list, left.plus(coming)) };
}

function servePart(
  told: Pick<DemandPart, "item" | "stocked" | "need" | "reach" | "reachInTime">,
  start: Day | null,
  serving: Serving,
  path: ReadonlySet<number>,
): DemandPart {
  const { shelf, supplyOf, today } = serving;
  const { item, need } = told;
  const { offer, recipe } = supplyOf(item);
  const { fromFree, claims, uncovered } = shelf.give(item, need);
  const shortNow = sum(claims.map((c) => c.quantity)).plus(uncovered);
  const inTime = claims.filter((c) => start === null || (c.day !== null && c.day <= start));
  const arrived = claims.map((c) => c.day).reduce(later, today);
  const fresh = offer === null ? null : arrivesBy(today, offer);
  const first =
    uncovered.gt(0) && recipe !== null && !path.has(item)
      ? serve(
          { key: 0, item, quantity: uncovered, day: start, priority: 1, ...recipe },
          serving,
          new Set([...path, item]),
        )
      : null;
  return {
    item,
    stocked: told.stocked,
    need,
    reach: told.reach,
    reachInTime: told.reachInTime,
    fromFree,
    claims,
    shortNow,
    shortOnDay: shortNow.minus(sum(inTime.map((c) => c.quantity))),
    uncovered,
    day: uncovered.eq(0) ? arrived : later(arrived, first ? first.finish : fresh),
    freshDay: claims.length > 0 && fresh !== null && (arrived === null || fresh < arrived) ? fresh : null,
    orderBy: lastDay(uncovered, start, first, offer),
    first,
  };
}

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

function partsOf(demands: readonly DemandCover[], supplyOf: (item: number) => Supply): PartCover[] {
  const byItem = new Map<number, { part: DemandPart; start: Day | null }[]>();
  for (const { parts, startDay: start } of demands)
    for (const part of parts) byItem.set(part.item, [...(byItem.get(part.item) ?? []), { part, start }]);
  return [...byItem].map(([item, taken]): PartCover => {
    const { stock, incoming } = supplyOf(item);
    const isFree = free(stock);
    const all = taken.map(({ part }) => part);
    const need = sum(all.map((part) => part.need));
    const stocked = all.some((part) => part.stocked);
    const orders = all.map((part) => part.orderBy).reduce(sooner, null);
    return {
      onHand: stock.onHand,
      expired: stock.expired,
      reserved: stock.reserved,
      item,
      stocked,
      need,
      free: isFree,
      incoming: sum(incoming.map((i) => i.quantity)),
      shortNow: sum(all.map((part) => part.shortNow)),
      shortOnDay: sum(all.map((part) => part.shortOnDay)),
      leftOver: stocked ? max(ZERO, isFree.minus(need)) : ZERO,
      day: all.map((part) => part.day).reduce(later),
      freshDay: all.map((part) => part.freshDay).reduce(sooner, null),
      orderBy: orders,
      shortTogether:
        stocked && all.length > 1 && need.gt(isFree) && all.every((part) => part.need.lte(isFree)),
      tooLate: taken.flatMap(({ part, start }) =>
        part.claims.filter((c) => start !== null && (c.day === null || c.day > start)),
      ),
    };
  });
}

/** Every part of a demand, those of the builds that it needs first among them. */
function deep(demand: DemandCover): DemandPart[] {
  return demand.parts.flatMap((part) => (part.first ? [part, ...deep(part.first)] : [part]));
}

function ordersOf(demands: readonly DemandCover[], supplyOf: (item: number) => Supply): ToOrder[] {
  const orders = new Map<number, ToOrder>();
  for (const answer of demands)
    for (const { item, uncovered, orderBy: by, first } of deep(answer)) {
      if (uncovered.eq(0) || first !== null) continue;
      const { offer } = supplyOf(item);
      const order = orders.get(item) ?? { item, offer, short: ZERO, quantity: ZERO, orderBy: null, for: [] };
      order.short = order.short.plus(uncovered);
      order.orderBy = sooner(order.orderBy, by);
      addFor(order.for, answer.demand.key, uncovered);
      orders.set(item, order);
    }
  return [...orders.values()].map((order) => ({
    ...order,
    quantity: order.offer === null ? order.short : toOrder(order.short, order.offer),
  }));
}

function buildsOf(demands: readonly DemandCover[]): ToBuild[] {
  const builds = new Map<number, ToBuild>();
  for (const answer of demands)
    for (const { item, first } of deep(answer)) {
      if (first === null) continue;
      const { quantity, day } = first.demand;
      const known = builds.get(item);
      // The first that asks meets the fullest shelf: what it finds can be made at once.
      const build = known ?? {
        item,
        quantity: ZERO,
        makesNow: first.makesNow,
        finish: first.finish,
        needed: day,
        for: [],
      };
      build.quantity = build.quantity.plus(quantity);
      build.finish = known ? later(build.finish, first.finish) : first.finish;
      build.needed = sooner(build.needed, day);
      addFor(build.for, answer.demand.key, quantity);
      builds.set(item, build);
    }
  return [...builds.values()];
}

function addFor(list: { demand: number; quantity: Decimal }[], demand: number, quantity: Decimal): void {
  const known = list.find((f) => f.demand === demand);
  if (known) known.quantity = known.quantity.plus(quantity);
  else list.push({ demand, quantity });
}
