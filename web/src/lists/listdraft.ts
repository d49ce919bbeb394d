import type { ItemRow, ListDraftBody, ListLineAnswer, PartsListAnswer } from "@yosegi/contract";
import type { DrawnAt, Units } from "@yosegi/core";

/** What a line must know of its part. */
export type DraftPart = Pick<
  ItemRow,
  "id" | "code" | "name" | "kind" | "unit" | "free" | "currentCost" | "notStockTracked"
> & { packs?: ItemRow["packs"] };

/** A part that is chosen: it says how its group draws it. */
export type ChosenPart = DraftPart & { drawnAt?: DrawnAt };

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
  /** The revision that it began with; null for a list that is new. */
  from: number | null;
  makes: string;
  usual: string;
  overhead: string;
  extra: string;
  yield: string;
  instructions: string;
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
      from: null,
      makes: "1",
      usual: "1",
      overhead: "0",
      extra: "0",
      yield: "100",
      instructions: "",
      price: price ?? "",
      lines: [emptyLine(0)],
    };
  const { makes, usual, overhead, extra } = list;
  return {
    from: list.revision.id,
    makes,
    usual,
    overhead,
    extra,
    yield: list.yield,
    instructions: list.instructions,
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

export const nextKey = (lines: readonly DraftLine[]) => Math.max(-1, ...lines.map((line) => line.key)) + 1;

/** What a line becomes when its part is chosen: in the part's unit, drawn as its group says. */
export function choosePart(
  part: ChosenPart | null,
): Pick<DraftLine, "part" | "pasted" | "unit"> & { drawnAt?: DrawnAt } {
  if (!part) return { part: null, pasted: "", unit: "" };
  return { part, pasted: "", unit: firstUnit(part), ...(part.drawnAt && { drawnAt: part.drawnAt }) };
}

export function bodyOf(draft: DraftList, list: number | null): ListDraftBody {
  const { makes, usual, overhead, extra, price, from } = draft;
  return {
    list,
    from,
    makes,
    usual,
    overhead,
    extra,
    yield: draft.yield,
    instructions: draft.instructions,
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

/** What a list says, without the empty line to go on at. */
export const textOfList = (draft: DraftList): string => JSON.stringify(bodyOf(draft, null));

/** Units that a part may be given in: those of its dimension. */
export function unitsFor(part: DraftLine["part"], units: Units): { value: string; label: string }[] {
  const stock = part && units.get(part.unit);
  return [...units.values()]
    .filter((unit) => !stock || unit.dimension === stock.dimension)
    .map((unit) => ({ value: unit.code, label: unit.code }));
}

/** The unit of a new line: minutes for work, else the stock unit of its part. */
export function firstUnit(part: NonNullable<DraftLine["part"]>): string {
  return part.kind === "service" && part.unit === "hour" ? "min" : part.unit;
}
