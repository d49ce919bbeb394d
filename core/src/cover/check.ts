import { type Decimal, max, type Unit, ZERO } from "../amounts/index.ts";
import { itemNeed, type ListLine, type PartsList, startFor } from "../lists/index.ts";
import { free, type StockFigures } from "../stock/index.ts";
import { linesByItem, type Reach, reach, smallest } from "./reach.ts";

export interface PartCheck extends StockFigures {
  item: number;
  /** The unit of all quantities here: the part's stock unit. */
  unit: Unit;
  need: Decimal;
  free: Decimal;
  short: Decimal;
  reach: Reach;
  limiting: boolean;
  /** Kept on the books; what is not has no figures but its need. */
  stocked: boolean;
}

export interface Check {
  wanted: Decimal;
  /** The smallest reach over all parts, in the product's unit. */
  makesNow: Reach;
  /** Every part with that reach. */
  limiting: number[];
  parts: PartCheck[];
}

/**
 * Whether stock suffices for `wanted` good units of a product, and how far each part reaches. Work is no part; what is
 * not counted is one, and never limits.
 */
export function check(list: PartsList, wanted: Decimal, stockOf: (item: number) => StockFigures): Check {
  const parts = [...linesByItem(list.lines.filter((line) => !line.service))].map(([item, lines]) =>
    checkPart(item, lines, list, wanted, stockOf(item)),
  );
  const makesNow = smallest(parts.map((part) => part.reach));
  const limiting = parts.filter(
    (part) => makesNow !== "no limit" && part.reach !== "no limit" && part.reach.eq(makesNow),
  );
  for (const part of limiting) part.limiting = true;
  return { wanted, makesNow, limiting: limiting.map((part) => part.item), parts };
}

function checkPart(
  item: number,
  lines: readonly ListLine[],
  list: PartsList,
  wanted: Decimal,
  stock: StockFigures,
): PartCheck {
  const first = lines[0];
  if (!first) throw new RangeError("A part has at least one line");
  const need = itemNeed(lines, list.makes, startFor(list, wanted));
  const freeQuantity = free(stock);
  const { stocked } = first;
  return {
    ...stock,
    item,
    unit: first.stockUnit,
    need,
    free: freeQuantity,
    short: stocked ? max(ZERO, need.minus(freeQuantity)) : ZERO,
    reach: stocked ? reach(lines, list, freeQuantity) : "no limit",
    stocked,
    limiting: false,
  };
}

/** How a strip of tiles shows a quantity: so many units of the product a tile, and how many tiles of each state. */
export interface Tiles {
  /** Units of the product that one tile stands for: 1, 2, 5, 10, 20, 50 … */
  each: Decimal;
  full: number;
  /** Coming in time. */
  hatched: number;
  missing: number;
}

/**
 * Tiles for `there` and then `coming` of `wanted`, at most `most` of them. A tile is full only where all of its units
 * are there, so a strip never promises more than stock holds.
 */
export function tiles(wanted: Decimal, there: Reach, coming: Decimal, most: number): Tiles {
  let each = ONE_OF[0] ?? wanted;
  for (let size = 0; wanted.div(each).gt(most); size++) {
    each = (ONE_OF[size % 3] ?? each).times(`1e${Math.floor(size / 3)}`);
  }
  const count = (quantity: Decimal, mode: 0 | 3) => quantity.div(each).round(0, mode).toNumber();
  const all = count(wanted, 3);
  const reached = there === "no limit" || there.gte(wanted) ? wanted : max(ZERO, there);
  const full = reached.eq(wanted) ? all : count(reached, 0);
  const until = reached.plus(coming);
  const withComing = until.gte(wanted) ? all : count(until, 0);
  return { each, full, hatched: withComing - full, missing: all - withComing };
}

/** How far a part's own need is covered: by what is free, and by what comes in time. For a strip that counts the part. */
export function ownStrip(part: { need: Decimal; shortNow: Decimal; shortOnDay: Decimal }): {
  there: Decimal;
  coming: Decimal;
} {
  return { there: max(ZERO, part.need.minus(part.shortNow)), coming: part.shortNow.minus(part.shortOnDay) };
}

/** Units that what comes in time allows beside those that free stock does; none where nothing limits. */
export function besides(now: Reach, inTime: Reach): Decimal {
  return now === "no limit" || inTime === "no limit" ? ZERO : inTime.minus(now);
}

const ONE_OF = [1, 2, 5].map((n) => ZERO.plus(n));
