import type { ItemRow, ItemSheet, ListDraftBody } from "@yosegi/contract";
import {
  decimal,
  type ListCost,
  type ListLine,
  listCost,
  type Margin,
  margin,
  type Units,
} from "@yosegi/core";

/** A line of the editor: what was typed, and the part that was chosen. */
export interface DraftLine {
  key: number;
  part: Pick<ItemRow, "id" | "code" | "name" | "kind" | "unit" | "free" | "unitCost"> | null;
  quantity: string;
  unit: string;
  waste: string;
  oncePerBuild: boolean;
}

export interface DraftList {
  makes: string;
  usual: string;
  overhead: string;
  lines: DraftLine[];
}

export const emptyLine = (key: number): DraftLine => ({
  key,
  part: null,
  quantity: "",
  unit: "",
  waste: "0",
  oncePerBuild: false,
});

/** What the editor begins with: the list that is there, and an empty line to go on at. */
export function draftOf(item: ItemSheet): DraftList {
  const { list } = item;
  if (!list) return { makes: "1", usual: "1", overhead: "0", lines: [emptyLine(0)] };
  return {
    makes: list.makes,
    usual: list.usual,
    overhead: list.overhead,
    lines: [...list.lines.map((line, key) => ({ ...line, key })), emptyLine(list.lines.length)],
  };
}

/** An empty line is only room to go on; it is not saved. */
export const isEmpty = (line: DraftLine): boolean => line.part === null && line.quantity === "";

/** Changes one line. The last line is always empty, so that there is one to go on at. */
export function changeLine(draft: DraftList, key: number, to: Partial<DraftLine>): DraftList {
  const lines = draft.lines.map((line) => (line.key === key ? { ...line, ...to } : line));
  const last = lines.at(-1);
  if (!last || !isEmpty(last)) lines.push(emptyLine(Math.max(-1, ...lines.map((line) => line.key)) + 1));
  return { ...draft, lines };
}

export function removeLine(draft: DraftList, key: number): DraftList {
  return { ...draft, lines: draft.lines.filter((line) => line.key !== key) };
}

export function bodyOf(draft: DraftList): ListDraftBody {
  const { makes, usual, overhead } = draft;
  return {
    makes,
    usual,
    overhead,
    lines: draft.lines
      .filter((line) => !isEmpty(line))
      .map((line) => ({
        part: line.part?.code ?? "",
        quantity: line.quantity,
        unit: line.unit,
        waste: line.waste,
        oncePerBuild: line.oncePerBuild,
      })),
  };
}

/** Where each line of the draft stands among those that are sent, so that its errors are found. */
export function sentIndex(draft: DraftList): Map<number, number> {
  return new Map(draft.lines.filter((line) => !isEmpty(line)).map((line, index) => [line.key, index]));
}

export interface DraftCost extends ListCost {
  /** Cost of each line by its key, for the usual quantity. */
  byLine: Map<number, string | null>;
  margin: Margin | null;
}

/** What the draft would cost, of the lines that can be figured already; null while the head cannot. */
export function costOfDraft(draft: DraftList, units: Units, price: string | null): DraftCost | null {
  const makes = amount(draft.makes);
  const usual = amount(draft.usual);
  const overhead = amount(draft.overhead);
  if (!makes?.gt(0) || !usual?.gt(0) || !overhead?.gte(0)) return null;
  const lines = draft.lines.flatMap((line) => {
    const figured = lineOf(line, units);
    return figured ? [{ key: line.key, line: figured }] : [];
  });
  const costs = new Map(draft.lines.map(({ part }) => [part?.id ?? 0, part?.unitCost ?? null]));
  const list = { makes, usual, overhead, lines: lines.map(({ line }) => line) };
  const cost = listCost(list, usual, (item) => amount(costs.get(item) ?? ""));
  return {
    ...cost,
    byLine: new Map(lines.map(({ key }, i) => [key, cost.lines[i]?.toFixed(4) ?? null])),
    margin: price === null ? null : margin(decimal(price), cost.each),
  };
}

function lineOf(line: DraftLine, units: Units): ListLine | null {
  const unit = units.get(line.unit);
  const stockUnit = line.part && units.get(line.part.unit);
  const quantity = amount(line.quantity);
  const waste = amount(line.waste);
  if (!line.part || !unit || !stockUnit || unit.dimension !== stockUnit.dimension) return null;
  if (!quantity?.gt(0) || !waste?.gte(0)) return null;
  const { oncePerBuild } = line;
  return {
    item: line.part.id,
    quantity,
    unit,
    stockUnit,
    waste,
    oncePerBuild,
    service: line.part.kind === "service",
  };
}

/** Typed text as an exact decimal; null where it is none yet. */
function amount(text: string) {
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
