import { rateFrom } from "@yosegi/contract";
import {
  check,
  type Decimal,
  decimal,
  isStocked,
  type ListCost,
  type ListLine,
  listCost,
  type Margin,
  margin,
  mixedAmount,
  NO_STOCK,
  type PartsList,
  priceForMargin,
  QUANTITY_DECIMALS,
  roundMoney,
  type Units,
  ZERO,
} from "@yosegi/core";
import type { DraftLine, DraftList } from "./listdraft.ts";

export interface DraftFigures {
  cost: ListCost;
  /** Overhead and extra cost together. */
  overhead: string;
  /** Cost of each line by its key, for the usual quantity. */
  byLine: Map<number, string | null>;
  margin: Margin | null;
  /** The reach of each line's part from free stock, by the line's key; null: no limit. */
  reach: Map<number, string | null>;
  /** How many units could be made now; null: nothing limits. */
  makesNow: string | null;
  /** Keys of the lines that stop it. */
  limiting: Set<number>;
  mixed: string | null;
}

/** Cost and reach of the draft, from the lines that are complete enough to calculate with; null while the head is not. */
export function figuresOf(draft: DraftList, units: Units, productUnit: string): DraftFigures | null {
  const head = headOf(draft, units.get(productUnit)?.decimals ?? 0);
  const unit = units.get(productUnit);
  if (!head || !unit) return null;
  const lines = draft.lines.flatMap((line) => {
    const complete = lineOf(line, units);
    return complete ? [{ key: line.key, line: complete, optional: line.optional }] : [];
  });
  const parts = new Map(draft.lines.map(({ part }) => [part?.id ?? 0, part]));
  const unitCost = (item: number) => rateFrom(parts.get(item)?.currentCost ?? null);
  const whole: PartsList = { ...head, lines: lines.map(({ line }) => line) };
  const taken: PartsList = { ...head, lines: lines.filter((l) => !l.optional).map(({ line }) => line) };
  const cost = listCost(taken, head.usual, unitCost);
  const each = listCost(whole, head.usual, unitCost).lines;
  const answer = check(taken, head.usual, (item) => ({
    ...NO_STOCK,
    onHand: amount(parts.get(item)?.free ?? "") ?? ZERO,
  }));
  const reachOf = new Map(
    answer.parts.map((part) => [part.item, part.reach === "no limit" ? null : part.reach.toFixed()]),
  );
  const price = amount(draft.price);
  return {
    cost,
    overhead: cost.overhead.plus(cost.extra).toFixed(4),
    byLine: new Map(lines.map(({ key }, i) => [key, each[i]?.toFixed(4) ?? null])),
    margin: price === null ? null : margin(price, cost.each),
    reach: new Map(
      lines
        .filter((l) => !l.optional && !l.line.service)
        .map((l) => [l.key, reachOf.get(l.line.item) ?? null]),
    ),
    makesNow: answer.makesNow === "no limit" ? null : answer.makesNow.toFixed(),
    limiting: new Set(lines.filter((l) => answer.limiting.includes(l.line.item)).map((l) => l.key)),
    mixed: mixedAmount(taken, unit)?.round(QUANTITY_DECIMALS).toFixed() ?? null,
  };
}

function headOf(draft: DraftList, decimals: number): Omit<PartsList, "lines"> | null {
  const [makes, usual, overhead, extra] = [draft.makes, draft.usual, draft.overhead, draft.extra].map(amount);
  const goes = amount(draft.yield);
  if (!makes?.gt(0) || !usual?.gt(0) || !overhead?.gte(0) || !extra?.gte(0)) return null;
  if (!goes?.gt(0) || goes.gt(100)) return null;
  return { makes, usual, overhead, extra, yield: goes, decimals };
}

function lineOf(line: DraftLine, units: Units): ListLine | null {
  const unit = units.get(line.unit);
  const stockUnit = line.part && units.get(line.part.unit);
  const quantity = amount(line.quantity);
  const waste = amount(line.waste);
  if (!line.part || !unit || !stockUnit || unit.dimension !== stockUnit.dimension) return null;
  if (!quantity?.gt(0) || !waste?.gte(0)) return null;
  const { oncePerBuild, part } = line;
  return {
    item: part.id,
    quantity,
    unit,
    stockUnit,
    waste,
    oncePerBuild,
    service: part.kind === "service",
    stocked: isStocked(part),
  };
}

/** The price that leaves so much over the cost, in money or in percent of it; null where there is none. */
export function priceLeaving(
  each: Decimal,
  as: "money" | "percent",
  text: string,
  decimals: number,
): string | null {
  const wish = amount(text);
  if (wish === null) return null;
  const price = as === "money" ? roundMoney(each.plus(wish), decimals) : priceForMargin(each, wish, decimals);
  return price?.gte(0) ? price.toFixed(decimals) : null;
}

/** Typed text as an exact decimal; null where it is none yet. */
function amount(text: string): Decimal | null {
  return /^-?\d+(\.\d+)?$/.test(text) ? decimal(text) : null;
}
