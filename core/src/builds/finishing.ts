import {
  type Day,
  type Decimal,
  MONEY_DECIMALS,
  max,
  roundMoney,
  sum,
  type Unit,
  ZERO,
} from "../amounts/index.ts";
import { type ListLine, nextNeed, workCost } from "../catalog/index.ts";
import { mostThatFits } from "../cover/index.ts";
import {
  expired,
  type Movement,
  post,
  type StockState,
  type Takeable,
  type Taken,
  take,
} from "../stock/index.ts";

/** A line as the build keeps it, with what this finish is to book on it. */
export interface FinishLine extends ListLine {
  /** The line's number within its build. */
  line: number;
  /** What was really used: stock in its stock unit, work in the unit of its line. Null takes the planned figure. */
  used: Decimal | null;
  /** Current unit cost of the part, or rate of the work; null where there is none. */
  unitCost: Decimal | null;
}

export interface Finish {
  makes: Decimal;
  overhead: Decimal;
  /** Of the build's extra cost, what no earlier finish was charged. */
  extra: Decimal;
  productUnit: Pick<Unit, "decimals">;
  /** Planned units, and those already worked (good + rejected). */
  planned: Decimal;
  done: Decimal;
  good: Decimal;
  rejected: Decimal;
  /** Nothing more is made after this, whatever is still open. */
  closes: boolean;
  lines: readonly FinishLine[];
  /** The day on which it happened: decides which lots have expired. */
  day: Day;
}

export interface FinishedLine {
  line: number;
  item: number;
  planned: Decimal;
  used: Decimal;
  difference: Decimal;
  /** What the used quantity costs, and what of it is due to the difference; four decimals. */
  cost: Decimal;
  differenceCost: Decimal;
  taken: Taken[];
}

export interface FinishCost {
  parts: Decimal;
  work: Decimal;
  overhead: Decimal;
  extra: Decimal;
  total: Decimal;
  /** For show: total ÷ good units, four decimals; null where none is good. */
  each: Decimal | null;
}

export interface PartShort {
  item: number;
  needed: Decimal;
  /** On hand in usable places and not expired. */
  there: Decimal;
  short: Decimal;
}

export type FinishPlan =
  | { ok: true; lines: FinishedLine[]; issues: Movement[]; cost: FinishCost }
  | { ok: false; lines: FinishedLine[]; shorts: PartShort[]; largest: Decimal };

/**
 * What a finish would record and cost (docs/rules.md § 5): the parts that leave, valued as the ledger will value them, the
 * work, the overhead. Where the books hold too little it says of which parts, and how many units they would do for.
 */
export function planFinish(finish: Finish, stock: StockState, ready: readonly Takeable[]): FinishPlan {
  const worked = finish.good.plus(finish.rejected);
  const left = ready.map((balance) => ({ ...balance }));
  let books = stock;
  const lines: FinishedLine[] = [];
  const issues: Movement[] = [];
  const wanting = new Set<number>();
  for (const line of finish.lines) {
    const planned = nextNeed(line, finish.makes, finish.done, worked);
    const used = line.used ?? planned;
    const entry = { line: line.line, item: line.item, planned, used, difference: used.minus(planned) };
    if (!line.stocked) {
      const cost = (quantity: Decimal) =>
        line.service
          ? workCost(quantity, line.unit, line.unitCost ?? ZERO, line.stockUnit)
          : roundMoney(quantity.times(line.unitCost ?? ZERO), MONEY_DECIMALS);
      lines.push({ ...entry, cost: cost(used), differenceCost: cost(used).minus(cost(planned)), taken: [] });
      continue;
    }
    const taken = take(left, line.item, used, finish.day);
    const moves = (taken ?? []).map((t) => ({ ...t, to: null, value: null }));
    const posted = post(books, moves);
    if (taken === null || !posted.ok) {
      wanting.add(line.item);
      lines.push({ ...entry, cost: ZERO, differenceCost: ZERO, taken: [] });
      continue;
    }
    books = posted.stock;
    issues.push(...moves);
    const cost = sum(posted.movements.map((m) => m.value));
    const unitCost = used.gt(0) ? cost.div(used) : (line.unitCost ?? ZERO);
    lines.push({
      ...entry,
      cost,
      differenceCost: roundMoney(entry.difference.times(unitCost), MONEY_DECIMALS),
      taken,
    });
  }
  if (wanting.size > 0) return refuse(finish, lines, wanting, ready);
  return { ok: true, lines, issues, cost: costOf(finish, lines, worked) };
}

function costOf(finish: Finish, lines: readonly FinishedLine[], worked: Decimal): FinishCost {
  const services = new Set(finish.lines.filter((line) => line.service).map((line) => line.line));
  const of = (service: boolean) =>
    sum(lines.filter((line) => services.has(line.line) === service).map((line) => line.cost));
  const overhead = roundMoney(finish.overhead.times(worked), MONEY_DECIMALS);
  const extra = extraNow(finish, worked);
  const total = sum([of(false), of(true), overhead, extra]);
  const each = finish.good.gt(0) ? roundMoney(total.div(finish.good), MONEY_DECIMALS) : null;
  return { parts: of(false), work: of(true), overhead, extra, total, each };
}

/** The share of the extra cost that these units bear: units now ÷ units still open; the last finish takes the rest. */
function extraNow(finish: Finish, worked: Decimal): Decimal {
  const open = finish.planned.minus(finish.done);
  if (finish.closes || worked.gte(open)) return finish.extra;
  return roundMoney(finish.extra.times(worked).div(open), MONEY_DECIMALS);
}

function refuse(
  finish: Finish,
  lines: FinishedLine[],
  wanting: ReadonlySet<number>,
  ready: readonly Takeable[],
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
