import { type Decimal, type Rate, type Unit, ZERO } from "../amounts/index.ts";
import type { DrawnAt } from "../items/index.ts";
import { type ListCost, listCost } from "./cost.ts";
import type { ListLine, PartsList } from "./partslist.ts";

/** Draft: may change. Locked: never changes again. Retired: not used any more. */
export const REVISION_STATES = ["draft", "locked", "retired"] as const;

export type RevisionState = (typeof REVISION_STATES)[number];

/** When a locked revision takes the place of the one before it. */
export const STARTS = ["at once", "day", "run out"] as const;

export type Start = (typeof STARTS)[number];

/** An item that may be taken instead: `quantity` of it for one of the part, both in their stock units. */
export interface Substitute {
  item: number;
  quantity: Decimal;
}

/** A line with all that a person says of it, beside what its figures depend on. */
export interface FullLine extends ListLine {
  /** Taken only by builds that choose it. */
  optional: boolean;
  drawnAt: DrawnAt;
  /** Id of the store it is taken from; null for the part's home store. */
  store: number | null;
  note: string;
  /** Percent of the product's cost that this part takes back when it is taken apart; null where not set. */
  share: Decimal | null;
  /** Id of the person who always does this work; null for anybody. */
  person: number | null;
  /** What may be taken instead, in order. */
  substitutes: readonly Substitute[];
}

/** The list as builds take it when they choose these of the optional parts. */
export function withOptions<Line extends FullLine>(
  list: PartsList<Line>,
  chosen: ReadonlySet<number>,
): PartsList<Line> {
  return { ...list, lines: list.lines.filter((line) => !line.optional || chosen.has(line.item)) };
}

/** What is taken instead of a part. */
export interface TakenInstead {
  item: number;
  unit: Unit;
  stocked: boolean;
}

/**
 * A list with a substitute in the place of a part, in every line that allows it. The need is calculated in one step from the
 * line's own unit, so that it is rounded only once; the unit is the substitute's, with the factors of the line.
 */
export function takeInstead<Line extends FullLine>(
  list: PartsList<Line>,
  part: number,
  by: TakenInstead,
): PartsList<Line> {
  const lines = list.lines.map((line): Line => {
    const allowed = line.item === part && line.substitutes.find((s) => s.item === by.item);
    if (!allowed) return line;
    return {
      ...line,
      item: by.item,
      stocked: by.stocked,
      quantity: line.quantity.times(allowed.quantity),
      unit: { ...by.unit, factor: line.unit.factor },
      stockUnit: { ...by.unit, factor: line.stockUnit.factor },
    };
  });
  return { ...list, lines };
}

/** What can differ between two revisions, of the list and of a line. */
export const HEAD_FIELDS = ["makes", "usual", "overhead", "extra", "yield"] as const;

export const LINE_FIELDS = [
  "quantity",
  "unit",
  "waste",
  "oncePerBuild",
  "optional",
  "drawnAt",
  "store",
  "note",
  "share",
  "person",
  "substitutes",
] as const;

export type HeadField = (typeof HEAD_FIELDS)[number];

export type LineField = (typeof LINE_FIELDS)[number];

export interface LineChange<Line> {
  item: number;
  /** null where the line was added. */
  before: Line | null;
  /** null where the line was removed. */
  after: Line | null;
  /** Which fields of the line differ; none where it was added or removed. */
  fields: LineField[];
  /** What the line costs for the usual quantity of each; null where there is no such line, or its cost is not known. */
  costBefore: Decimal | null;
  costAfter: Decimal | null;
}

export interface Comparison<Line> {
  head: HeadField[];
  lines: LineChange<Line>[];
  /** What the product is expected to cost by each, all parts at their cost of today. */
  before: ListCost;
  after: ListCost;
}

/** What changed from one revision to another: lines are the same line where they name the same part, in their order. */
export function compareRevisions<Line extends FullLine>(
  before: PartsList<Line>,
  after: PartsList<Line>,
  unitCost: (item: number) => Rate | null,
): Comparison<Line> {
  const costs = [before, after].map((list) => ({
    list: listCost(withOptions(list, NONE), list.usual, unitCost),
    // Optional lines are told with their cost too, though nothing takes them unasked.
    lines: new Map(listCost(list, list.usual, unitCost).lines.map((cost, i) => [list.lines[i], cost])),
  }));
  const [old, fresh] = costs;
  if (!old || !fresh) throw new RangeError("Two lists are compared");
  const left = [...before.lines];
  const lines = after.lines.flatMap((line): LineChange<Line>[] => {
    const at = left.findIndex((l) => l.item === line.item);
    const earlier = at < 0 ? null : (left.splice(at, 1)[0] ?? null);
    const fields = earlier === null ? [] : LINE_FIELDS.filter((field) => differs(field, earlier, line));
    if (earlier !== null && fields.length === 0) return [];
    const costBefore = earlier === null ? null : (old.lines.get(earlier) ?? null);
    const costAfter = fresh.lines.get(line) ?? null;
    return [{ item: line.item, before: earlier, after: line, fields, costBefore, costAfter }];
  });
  const removed = left.map((line) => ({
    item: line.item,
    before: line,
    after: null,
    fields: [],
    costBefore: old.lines.get(line) ?? null,
    costAfter: null,
  }));
  return {
    head: HEAD_FIELDS.filter((field) => !before[field].eq(after[field])),
    lines: [...lines, ...removed],
    before: old.list,
    after: fresh.list,
  };
}

const NONE: ReadonlySet<number> = new Set();

/** Whether two lists say the same, line by line in their order. */
export function sameList<Line extends FullLine>(a: PartsList<Line>, b: PartsList<Line>): boolean {
  return (
    HEAD_FIELDS.every((field) => a[field].eq(b[field])) &&
    a.lines.length === b.lines.length &&
    a.lines.every((line, i) => {
      const other = b.lines[i];
      return (
        other !== undefined &&
        line.item === other.item &&
        !LINE_FIELDS.some((field) => differs(field, line, other))
      );
    })
  );
}

function differs(field: LineField, a: FullLine, b: FullLine): boolean {
  switch (field) {
    case "quantity":
    case "waste":
      return !a[field].eq(b[field]);
    case "unit":
      return a.unit.code !== b.unit.code;
    case "share":
      return (a.share === null) !== (b.share === null) || !(a.share ?? ZERO).eq(b.share ?? ZERO);
    case "substitutes":
      return JSON.stringify(a.substitutes) !== JSON.stringify(b.substitutes);
    default:
      return a[field] !== b[field];
  }
}
