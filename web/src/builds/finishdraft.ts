import { type BuildSheet, type FinishBody, type ItemBrief, PLAIN_LINE } from "@yosegi/contract";
import { type Day, decimal, substituteFor } from "@yosegi/core";

/** What a person says of one line; its used figure follows the plan until it is changed. */
export interface LineDraft {
  used: string | null;
  scrapped: string;
  reason: string;
  only: string[];
}

export interface ExtraDraft extends LineDraft {
  item: ItemBrief;
  insteadOf: number | null;
}

export type CountDraft = FinishBody["counts"][number];
export type WorkDraft = FinishBody["work"][number];

/** A finish as it stands in the form. */
export interface FinishDraft {
  good: string;
  rejected: string;
  reason: string;
  day: Day;
  lines: ReadonlyMap<number, LineDraft>;
  extra: readonly ExtraDraft[];
  counts: readonly CountDraft[];
  work: readonly WorkDraft[];
  returnToStock: boolean;
  closeRest: boolean;
  store: string;
  bin: string;
  lot: string;
  expiry: string;
  madeOn: string;
  serials: readonly string[];
  /** Part serials by finished unit and part, as chosen; "" follows the suggestion. */
  parts: ReadonlyMap<string, string>;
}

export const PLAIN: LineDraft = { used: null, scrapped: "0", reason: "", only: [] };

/** The form as a build offers it: all that is open, as planned. */
export function newDraft(build: BuildSheet, today: Day): FinishDraft {
  return {
    good: build.open,
    rejected: "0",
    reason: "",
    day: today,
    store: build.store,
    bin: build.bin,
    lines: new Map(),
    extra: [],
    counts: [],
    work: [],
    returnToStock: false,
    closeRest: false,
    parts: new Map(),
    lot: build.suggestedLot,
    expiry: build.suggestedExpiry ?? "",
    madeOn: "",
    serials: [],
  };
}

/** Changes what is said of a line. One that says nothing any more follows the plan again. */
export function setLine(
  draft: FinishDraft,
  line: number,
  change: Partial<LineDraft>,
  planned: string,
): FinishDraft {
  const next = { ...(draft.lines.get(line) ?? PLAIN), ...change };
  if (next.used === planned) next.used = null;
  const lines = new Map(draft.lines);
  const plain = next.used === null && next.scrapped === "0" && next.reason === "" && next.only.length === 0;
  if (plain) lines.delete(line);
  else lines.set(line, next);
  return { ...draft, lines };
}

/**
 * Takes a substitute for all that is planned of a line: by its factor, raised to the decimals of its unit; the line
 * itself takes nothing.
 */
export function takeSubstitute(
  draft: FinishDraft,
  line: number,
  substitute: BuildSheet["lines"][number]["substitutes"][number],
  planned: string,
): FinishDraft {
  const quantity = substituteFor(decimal(planned), decimal(substitute.factor), substitute.item.decimals);
  const taken = { ...PLAIN, item: substitute.item, insteadOf: line, used: quantity.toFixed() };
  return { ...setLine(draft, line, { used: "0" }, planned), extra: [...draft.extra, taken] };
}

/** Removes a part that was added; the line it stood in for follows the plan again. */
export function removeExtra(draft: FinishDraft, index: number): FinishDraft {
  const gone = draft.extra[index];
  const extra = draft.extra.filter((_, i) => i !== index);
  const lines = new Map(draft.lines);
  if (gone && gone.insteadOf !== null) lines.delete(gone.insteadOf);
  return { ...draft, extra, lines };
}

export const unitPart = (serial: number, item: number, place: number): string => `${serial} ${item} ${place}`;

/**
 * What is sent. Lines of which nothing is said are left out; a used figure that follows the plan is left to it, as the
 * plan may have moved on since it was shown. Part serials that were chosen for units are taken first, then the others in
 * the suggested order.
 */
export function bodyOf(draft: FinishDraft, build: Pick<BuildSheet, "lines">): FinishBody {
  const { lines, extra, counts, work, serials, expiry, madeOn, parts, ...rest } = draft;
  const serialParts = [...parts].flatMap(([key, part]) => {
    const [unit = 0, item = 0] = key.split(" ").map(Number);
    const serial = serials[unit] ?? "";
    return part === "" || serial === "" ? [] : [{ serial, item, part }];
  });
  const said = new Map(lines);
  for (const line of build.lines) {
    const chosen = serialParts.filter((entry) => entry.item === line.item.id).map((entry) => entry.part);
    if (chosen.length === 0) continue;
    const others = line.choices.map((choice) => choice.code).filter((code) => !chosen.includes(code));
    said.set(line.line, { ...(said.get(line.line) ?? PLAIN), only: [...chosen, ...others] });
  }
  return {
    ...rest,
    lines: [...said].map(([line, entry]) => ({ ...entry, line })),
    extra: extra.map(({ item, used, ...entry }) => ({
      ...PLAIN_LINE,
      ...entry,
      item: item.id,
      used: used ?? "",
    })),
    counts: [...counts],
    work: [...work],
    expiry: expiry === "" ? null : expiry,
    madeOn: madeOn === "" ? null : madeOn,
    serials: [...serials],
    serialParts,
  };
}

/** How many serial numbers a finish needs: as many as good units; null while that is no whole number. */
export function serialsNeeded(build: Pick<BuildSheet, "product">, good: string): number | null {
  if (build.product.tracking !== "serial" || !/^\d{1,5}$/.test(good)) return null;
  return Number(good);
}

/** The serial numbers for so many units: those already typed, then empty ones. */
export function fitted(serials: readonly string[], count: number): string[] {
  return Array.from({ length: count }, (_, i) => serials[i] ?? "");
}

/** How many part serials of a line go into one finished unit; at least one is asked for. */
export function partsInUnit(line: BuildSheet["lines"][number], build: Pick<BuildSheet, "quantity">): number {
  return Math.max(1, Math.round(decimal(line.need).div(build.quantity).toNumber()));
}

/** Rows that have no other name than their place: finished units, and who worked. Every field in them is controlled. */
export function placed<Row>(rows: readonly Row[]): (readonly [row: Row, place: number])[] {
  return rows.map((row, place) => [row, place] as const);
}
