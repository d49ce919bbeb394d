import type { ItemRow, ListDraftBody, ListLineAnswer, PartsListAnswer } from "@yosegi/contract";
import {
  check,
  type Decimal,
  type DrawnAt,
  decimal,
  isStocked,
  type ListCost,
  type ListLine,
  listCost,
  type Margin,
  margin,
  mixedAmount,
  NO_STOCK,
  type NumberMarks,
  type PartsList,
  parseNumber,
  priceForMargin,
  QUANTITY_DECIMALS,
  roundMoney,
  type Units,
  ZERO,
} from "@yosegi/core";
import { rateFrom } from "./rates.ts";

/** What a line must know of its part. */
export type DraftPart = Pick<
  ItemRow,
  "id" | "code" | "name" | "kind" | "unit" | "free" | "currentCost" | "notCounted"
> & { packs?: ItemRow["packs"] };

/** A line of the editor: what was typed, and the part that was chosen. */
export interface DraftLine {
  key: number;
  part: DraftPart | null;
  /** A pasted code that is not known; "" where there is none. */
  pasted: string;
  quantity: string;
  unit: string;
  waste: string;
  oncePerBuild: boolean;
  optional: boolean;
  drawnAt: DrawnAt;
  store: string;
  note: string;
  share: string;
  person: string;
  substitutes: { item: Pick<ItemRow, "id" | "code" | "name" | "unit" | "packs"> | null; quantity: string }[];
}

export interface DraftList {
  makes: string;
  usual: string;
  overhead: string;
  extra: string;
  yield: string;
  price: string;
  lines: DraftLine[];
}

export const emptyLine = (key: number): DraftLine => ({
  key,
  part: null,
  pasted: "",
  quantity: "",
  unit: "",
  waste: "0",
  oncePerBuild: false,
  optional: false,
  drawnAt: "pick",
  store: "",
  note: "",
  share: "",
  person: "",
  substitutes: [],
});

/** What the editor begins with: the list that is there, and an empty line to go on at. */
export function draftOf(list: PartsListAnswer | null, price: string | null): DraftList {
  if (!list)
    return {
      makes: "1",
      usual: "1",
      overhead: "0",
      extra: "0",
      yield: "100",
      price: price ?? "",
      lines: [emptyLine(0)],
    };
  const { makes, usual, overhead, extra } = list;
  return {
    makes,
    usual,
    overhead,
    extra,
    yield: list.yield,
    price: price ?? "",
    lines: [...list.lines.map(lineDraft), emptyLine(list.lines.length)],
  };
}

const lineDraft = (line: ListLineAnswer, key: number): DraftLine => ({
  ...line,
  key,
  pasted: "",
  share: line.share ?? "",
  substitutes: line.substitutes.map((s) => ({
    item: { ...s, code: s.item },
    quantity: s.quantity,
  })),
});

/** An empty line is only room to go on; it is not saved. */
export const isEmpty = (line: DraftLine): boolean =>
  line.part === null && line.quantity === "" && line.pasted === "";

const nextKey = (lines: readonly DraftLine[]) => Math.max(-1, ...lines.map((line) => line.key)) + 1;

/** The last line is always empty, so that there is one to go on at. */
function withRoom(draft: DraftList, lines: DraftLine[]): DraftList {
  const last = lines.at(-1);
  return { ...draft, lines: last && isEmpty(last) ? lines : [...lines, emptyLine(nextKey(lines))] };
}

/** Changes one line. */
export function changeLine(draft: DraftList, key: number, to: Partial<DraftLine>): DraftList {
  return withRoom(
    draft,
    draft.lines.map((line) => (line.key === key ? { ...line, ...to } : line)),
  );
}

/** What a line becomes when its part is chosen: in the part's unit, drawn as its group says. */
export function choosePart(part: (DraftPart & { drawnAt?: DrawnAt }) | null): Partial<DraftLine> {
  if (!part) return { part: null, pasted: "", unit: "" };
  return { part, pasted: "", unit: firstUnit(part), ...(part.drawnAt && { drawnAt: part.drawnAt }) };
}

export function removeLine(draft: DraftList, key: number): DraftList {
  return withRoom(
    draft,
    draft.lines.filter((line) => line.key !== key),
  );
}

/** Puts a line in another's place; the empty one stays last. */
export function moveLine(draft: DraftList, key: number, to: number): DraftList {
  const from = draft.lines.findIndex((line) => line.key === key);
  const line = draft.lines[from];
  if (!line || isEmpty(line) || to < 0 || to >= draft.lines.length - 1) return draft;
  const lines = draft.lines.filter((l) => l.key !== key);
  lines.splice(to, 0, line);
  return { ...draft, lines };
}

/** A row of a spreadsheet as it is pasted: code or name, quantity, unit, waste. */
export interface PastedRow {
  code: string;
  quantity: string;
  unit: string;
  waste: string;
}

/** Rows of a tab-separated clipboard; null where it is a single value, to be typed where the cursor is. */
export function pastedRows(text: string, marks: NumberMarks): PastedRow[] | null {
  const rows = text.replace(/\r\n?/g, "\n").replace(/\n+$/, "").split("\n");
  if (rows.length < 2 && !text.includes("\t")) return null;
  // Text that is no number stays as it is, to be refused at its field.
  const number = (cell: string) => (cell === "" ? "" : (parseNumber(cell.replace(/%$/, ""), marks) ?? cell));
  return rows
    .map((row) => row.split("\t").map((cell) => cell.trim().replace(/^"(.*)"$/s, "$1")))
    .filter(([code = ""]) => code !== "")
    .map(([code = "", quantity = "", unit = "", waste = ""]) => ({
      code,
      unit,
      quantity: number(quantity),
      waste: waste === "" ? "0" : number(waste),
    }));
}

/** Puts pasted rows in the place of the line where they were pasted, and after it. */
export function insertRows(
  draft: DraftList,
  at: number,
  rows: readonly PastedRow[],
  found: readonly ((DraftPart & { drawnAt?: DrawnAt }) | null)[],
): DraftList {
  let key = nextKey(draft.lines);
  const fresh = rows.map((row, i): DraftLine => {
    const part = found[i] ?? null;
    return {
      ...emptyLine(key++),
      ...choosePart(part),
      ...(!part && { pasted: row.code }),
      ...(row.unit !== "" && { unit: row.unit }),
      quantity: row.quantity,
      waste: row.waste,
    };
  });
  const line = draft.lines[at];
  const lines = [...draft.lines];
  lines.splice(at, line && isEmpty(line) ? 1 : 0, ...fresh);
  return withRoom(draft, lines);
}

export function bodyOf(draft: DraftList, list: number | null): ListDraftBody {
  const { makes, usual, overhead, extra, price } = draft;
  return {
    list,
    makes,
    usual,
    overhead,
    extra,
    yield: draft.yield,
    price: price === "" ? null : price,
    lines: draft.lines
      .filter((line) => !isEmpty(line))
      .map(({ quantity, unit, waste, oncePerBuild, optional, drawnAt, store, note, person, ...line }) => ({
        part: line.part?.code ?? line.pasted,
        quantity,
        unit,
        waste,
        oncePerBuild,
        optional,
        drawnAt,
        store,
        note,
        person,
        share: line.share === "" ? null : line.share,
        substitutes: line.substitutes
          .filter((s) => s.item !== null || s.quantity !== "")
          .map((s) => ({ item: s.item?.code ?? "", quantity: s.quantity })),
      })),
  };
}

/** Where each line of the draft stands among those that are sent, so that its errors are found. */
export function sentIndex(draft: DraftList): Map<number, number> {
  return new Map(draft.lines.filter((line) => !isEmpty(line)).map((line, index) => [line.key, index]));
}

export interface DraftFigures {
  cost: ListCost;
  /** Overhead and extra cost together. */
  overhead: string;
  /** Cost of each line by its key, for the usual quantity. */
  byLine: Map<number, string | null>;
  margin: Margin | null;
  /** How far the free stock of each line's part reaches, by the line's key; null: no limit. */
  reach: Map<number, string | null>;
  /** How many units could be made now; null: nothing limits. */
  makesNow: string | null;
  /** Keys of the lines that stop it. */
  limiting: Set<number>;
  mixed: string | null;
}

/** What the draft would cost and how far stock reaches, of the lines that can be figured already; null while the head cannot. */
export function figuresOf(draft: DraftList, units: Units, productUnit: string): DraftFigures | null {
  const head = headOf(draft, units.get(productUnit)?.decimals ?? 0);
  const unit = units.get(productUnit);
  if (!head || !unit) return null;
  const lines = draft.lines.flatMap((line) => {
    const figured = lineOf(line, units);
    return figured ? [{ key: line.key, line: figured, optional: line.optional }] : [];
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

/** Units that a part may be given in: those of its dimension. */
export function unitsFor(part: DraftLine["part"], units: Units): { value: string; label: string }[] {
  const stock = part && units.get(part.unit);
  return [...units.values()]
    .filter((unit) => !stock || unit.dimension === stock.dimension)
    .map((unit) => ({ value: unit.code, label: unit.code }));
}

/** The unit a new line begins with: work is told in minutes, all else in its stock unit. */
export function firstUnit(part: NonNullable<DraftLine["part"]>): string {
  return part.kind === "service" && part.unit === "hour" ? "min" : part.unit;
}
