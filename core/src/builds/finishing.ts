import {
  type Day,
  type Decimal,
  divideRounded,
  MONEY_DECIMALS,
  max,
  min,
  type Rate,
  rateOf,
  roundMoney,
  sum,
  type Unit,
  valueAt,
  ZERO,
} from "../amounts/index.ts";
import { mostThatFits } from "../cover/index.ts";
import { type ListLine, nextNeed, workCost } from "../lists/index.ts";
import {
  added,
  type Balance,
  buildOwner,
  type Counted,
  countEntries,
  countMovements,
  expired,
  lost,
  type Movement,
  type PickableStock,
  type PostingEntry,
  post,
  quantityOf,
  returnToStock,
  type Source,
  type SourceLine,
  type Spot,
  type StockPick,
  type StockState,
  sameOwner,
  take,
  type ValuedMovement,
  withCounts,
} from "../stock/index.ts";
import { buildLine } from "./buildline.ts";

/** A line as the build keeps it, with what this finish is to book on it. */
export interface FinishLine extends ListLine {
  /** The line's number within its build. */
  line: number;
  /** What was really used: stock in its stock unit, work in the unit of its line. Null takes the planned figure. */
  used: Decimal | null;
  /** Of what was used, what went into no unit: torn, spilt. */
  scrapped: Decimal;
  /** What of it was handed out and lies with the build. */
  bench: Decimal;
  /** Lots or serials that the person chose; empty: the suggested order. */
  only: readonly string[];
  /** Id of the store that the line names; null, or left out, for none. */
  store?: number | null;
  /** Current unit cost of the part, or rate of the work; null where there is none. */
  unitCost: Rate | null;
}

export interface Finish {
  /** The build's id: what was handed out lies under it. */
  build: number;
  makes: Decimal;
  overhead: Decimal;
  /** Of the build's extra cost, what no earlier finish was charged. */
  extra: Decimal;
  /** Of the fee of the outside workshop, what no earlier finish was charged. */
  subcontractor: Decimal;
  productUnit: Pick<Unit, "decimals">;
  /** Planned units, and those already worked (good + rejected). */
  planned: Decimal;
  done: Decimal;
  good: Decimal;
  rejected: Decimal;
  /** Nothing more is made after this, whatever is still open. */
  closes: boolean;
  lines: readonly FinishLine[];
  /** What was counted on the way, because the books said otherwise; recorded first. */
  counts: readonly Counted[];
  /** What lies with the build goes back to its bins, also where more is still to be made. */
  returnToStock: boolean;
  /** The day on which it happened: decides which lots have expired. */
  day: Day;
}

export interface FinishedLine {
  line: number;
  item: number;
  planned: Decimal;
  used: Decimal;
  scrapped: Decimal;
  difference: Decimal;
  /** What the used quantity costs, and what of it is due to the difference; four decimals. */
  cost: Decimal;
  differenceCost: Decimal;
  taken: StockPick[];
  /** Of what was used, what came from the bench; and what goes back from there to its bins. */
  fromBench: Decimal;
  back: Decimal;
}

export interface FinishCost {
  parts: Decimal;
  work: Decimal;
  overhead: Decimal;
  extra: Decimal;
  subcontractor: Decimal;
  total: Decimal;
  /** For show: total ÷ good units, four decimals; null where none is good. */
  each: Decimal | null;
}

export interface PartShort {
  item: number;
  needed: Decimal;
  /** On hand in usable places and not expired, and on the bench for this build. */
  there: Decimal;
  short: Decimal;
}

export type FinishPlan =
  | {
      ok: true;
      lines: FinishedLine[];
      /** In the order in which they are recorded; the product comes in before what goes back. */
      counts: ValuedMovement[];
      issues: ValuedMovement[];
      back: Movement[];
      cost: FinishCost;
    }
  | { ok: false; lines: FinishedLine[]; shorts: PartShort[]; largest: Decimal };

/** What the books hold of the parts of a build. */
export interface FinishBooks {
  stock: StockState;
  /** In usable places. */
  ready: readonly PickableStock[];
  /** Handed out to the build. */
  bench: readonly PickableStock[];
  /** Where that came from. */
  sources: readonly Source[];
  /** Where a part belongs whose source is not known. */
  home: (item: number) => Spot;
}

/**
 * What a finish would record and cost (docs/rules.md § 5): the parts that leave, from the bench first, each charged as an
 * issue of its pool, so that the charge grows evenly with what is used; the work, the overhead. Where the books hold too little it says of which parts, and how many
 * units they would do for.
 */
export function planFinish(finish: Finish, given: FinishBooks): FinishPlan {
  const worked = finish.good.plus(finish.rejected);
  const lineOf = lineOfItem(finish.build, finish.lines);
  const counts = countMovements(given.stock, finish.counts).map((count) => ({
    ...count,
    source: lineOf(count.item),
  }));
  const counted = post(given.stock, counts);
  if (!counted.ok) throw new Error("A count takes no more than is there");
  let books = counted.stock;
  const ready = withCounts(given.ready, finish.counts);
  const left = ready.map((balance) => ({ ...balance }));
  const bench = given.bench.map((balance) => ({ ...balance }));
  const ends = finish.closes || worked.gte(finish.planned.minus(finish.done));
  const lines: FinishedLine[] = [];
  const issues: ValuedMovement[] = [];
  const wanting = new Set<number>();
  for (const line of finish.lines) {
    const entry = uncharged(line, nextNeed(line, finish.makes, finish.done, worked));
    if (!line.stocked) {
      lines.push({ ...entry, ...unstockedCost(line, entry) });
      continue;
    }
    const { used } = entry;
    const { item, only, store = null } = line;
    const fromBench = take(bench, { item, quantity: min(used, line.bench), only }, NEVER_EXPIRES);
    const benched = quantityOf(fromBench);
    const fromStore = take(left, { item, quantity: used.minus(benched), only, store }, finish.day);
    const taken = [...fromBench, ...fromStore];
    const source = buildLine(finish.build, line.line);
    const posted = post(
      books,
      taken.map((one) => ({ ...one, purpose: "used" as const, source, to: null, value: null })),
    );
    if (quantityOf(taken).lt(used) || !posted.ok) {
      wanting.add(item);
      lines.push(entry);
      continue;
    }
    books = posted.stock;
    issues.push(...posted.movements);
    const cost = sum(posted.movements.map((m) => m.value));
    const charged = used.gt(0) ? rateOf(cost, used) : (line.unitCost ?? FREE);
    lines.push({
      ...entry,
      cost,
      taken,
      fromBench: benched,
      differenceCost: valueAt(entry.difference, charged),
      back: ends || finish.returnToStock ? line.bench.minus(benched) : ZERO,
    });
  }
  if (wanting.size > 0) return refuse(finish, lines, wanting, [...ready, ...given.bench.map(unexpired)]);
  const returned = ends || finish.returnToStock ? heldByBuild(finish.build, books) : [];
  const back = returnToStock(returned, given.sources, given.home, lineOf);
  return { ok: true, lines, counts: counted.movements, issues, back, cost: costOf(finish, lines, worked) };
}

/** A line as it was used, before anything is charged for it. */
function uncharged(line: FinishLine, planned: Decimal): FinishedLine {
  const used = line.used ?? planned;
  return {
    line: line.line,
    item: line.item,
    planned,
    used,
    scrapped: line.scrapped,
    difference: used.minus(planned),
    cost: ZERO,
    differenceCost: ZERO,
    fromBench: ZERO,
    back: ZERO,
    taken: [],
  };
}

/** What work, and parts that are not stock-tracked, cost by their rate. */
function unstockedCost(
  line: FinishLine,
  { used, planned }: FinishedLine,
): Pick<FinishedLine, "cost" | "differenceCost"> {
  const rate = line.unitCost ?? FREE;
  const cost = (quantity: Decimal) =>
    line.service ? workCost(quantity, line.unit, rate, line.stockUnit) : valueAt(quantity, rate);
  return { cost: cost(used), differenceCost: cost(used).minus(cost(planned)) };
}

const FREE = rateOf(ZERO);

/** What was handed out is there to be used, whatever day it is. */
const NEVER_EXPIRES: Day = "0000-01-01";

const unexpired = (balance: PickableStock): PickableStock => ({ ...balance, expiry: null });

/** What of the parts lies with a build. */
export function heldByBuild(build: number, stock: StockState): Balance[] {
  const own = buildOwner(build);
  return [...stock.balances.values()].filter((b) => sameOwner(b.owner, own) && b.quantity.gt(0));
}

/** The line of a build that an item on its bench was handed out for: the first of that item. */
export function lineOfItem(
  build: number,
  lines: readonly { line: number; item: number }[],
): (item: number) => SourceLine {
  return (item) => buildLine(build, lines.find((line) => line.item === item)?.line ?? 0);
}

/**
 * What a finish enters beside its movements, so that its values add up (docs/rules.md § 9): the costs that are no stock,
 * what its counts found, and what is lost where no unit is good or the product is not stock-tracked.
 */
export function finishEntries(
  finish: Pick<Finish, "good" | "lines">,
  { cost, counts, lines }: Extract<FinishPlan, { ok: true }>,
  { stocked, reason }: { stocked: boolean; reason: string },
): PostingEntry[] {
  const untracked = new Set(
    finish.lines.filter((line) => !line.stocked && !line.service).map((line) => line.line),
  );
  const untrackedParts = sum(lines.filter((line) => untracked.has(line.line)).map((line) => line.cost));
  const loss = finish.good.eq(0)
    ? lost("rejected", cost.total, reason)
    : stocked
      ? []
      : lost("not stock-tracked", cost.total);
  return [
    ...countEntries(counts),
    ...added("parts not stock-tracked", untrackedParts),
    ...added("work", cost.work),
    ...added("overhead", cost.overhead),
    ...added("extra cost", cost.extra),
    ...added("subcontractor's fee", cost.subcontractor),
    ...loss,
  ];
}

function costOf(finish: Finish, lines: readonly FinishedLine[], worked: Decimal): FinishCost {
  const services = new Set(finish.lines.filter((line) => line.service).map((line) => line.line));
  const of = (service: boolean) =>
    sum(lines.filter((line) => services.has(line.line) === service).map((line) => line.cost));
  const overhead = roundMoney(finish.overhead.times(worked), MONEY_DECIMALS);
  const extra = shareNow(finish, finish.extra, worked);
  const subcontractor = shareNow(finish, finish.subcontractor, worked);
  const total = sum([of(false), of(true), overhead, extra, subcontractor]);
  const each = finish.good.gt(0) ? divideRounded(total, finish.good, MONEY_DECIMALS) : null;
  return { parts: of(false), work: of(true), overhead, extra, subcontractor, total, each };
}

/** The share of a cost of the whole build that these units bear: units now ÷ units still open; the last finish takes the rest. */
function shareNow(finish: Finish, cost: Decimal, worked: Decimal): Decimal {
  const open = finish.planned.minus(finish.done);
  if (finish.closes || worked.gte(open)) return cost;
  return divideRounded(cost.times(worked), open, MONEY_DECIMALS);
}

function refuse(
  finish: Finish,
  lines: FinishedLine[],
  wanting: ReadonlySet<number>,
  ready: readonly PickableStock[],
): FinishPlan {
  const there = (item: number) =>
    sum(ready.filter((b) => b.item === item && !expired(b.expiry, finish.day)).map((b) => b.quantity));
  const stocked = finish.lines.filter((line) => line.stocked);
  const fits = (n: Decimal) =>
    [...new Set(stocked.map((line) => line.item))].every((item) =>
      sum(
        stocked
          .filter((line) => line.item === item)
          .map((line) => nextNeed(line, finish.makes, finish.done, n)),
      ).lte(there(item)),
    );
  const shorts = [...wanting].map((item) => {
    const needed = sum(lines.filter((line) => line.item === item).map((line) => line.used));
    return { item, needed, there: there(item), short: max(ZERO, needed.minus(there(item))) };
  });
  const open = finish.planned.minus(finish.done);
  return { ok: false, lines, shorts, largest: mostThatFits(open, finish.productUnit, fits) };
}
