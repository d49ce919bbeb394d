import type { ItemBrief, StoreAnswer } from "@yosegi/contract";
import { codeKey, parseNumber } from "@yosegi/core";

/** What is booked by hand. */
export const BOOKINGS = ["move", "scrap", "receive"] as const;
export type Booking = (typeof BOOKINGS)[number];

/** Where a line takes from, as its choice of a place holds it. */
export interface From {
  store: string;
  bin: string;
  lot: string;
  serial: string;
}

export const fromKey = ({ store, bin, lot, serial }: From): string =>
  JSON.stringify([store, bin, lot, serial]);

/** Reads what `fromKey` wrote; nowhere for "". */
export function fromOf(key: string): From {
  const [store = "", bin = "", lot = "", serial = ""] = key === "" ? [] : (JSON.parse(key) as string[]);
  return { store, bin, lot, serial };
}

export type BookItem = Pick<ItemBrief, "id" | "code" | "name" | "unit" | "packs" | "tracking">;

/** A line as the form holds it. Moved and scrapped goods come `from` a place; moved and received ones go to a store and bin. */
export interface BookLine {
  item: BookItem | null;
  from: string;
  quantity: string;
  store: string;
  bin: string;
  lot: string;
  serial: string;
  expiry: string;
  unitCost: string;
  costPer: string;
}

export const BLANK_LINE: BookLine = {
  item: null,
  from: "",
  quantity: "",
  store: "",
  bin: "",
  lot: "",
  serial: "",
  expiry: "",
  unitCost: "",
  costPer: "",
};

export const isBlank = ({ item, from, quantity }: BookLine): boolean =>
  item === null && from === "" && quantity === "";

/** The lines that say something. */
export const filled = (lines: readonly BookLine[]): BookLine[] => lines.filter((line) => !isBlank(line));

/** What is booked together, as the form holds it. */
export interface BookDraft {
  lines: BookLine[];
  day: string;
  costTag: string;
  reason: string;
}

/** A bin that goods are scanned out of. */
export interface OpenBin {
  location: number;
  store: string;
  bin: string;
}

/** The bin that a code names: in the store that is worked in, else in the first that has one of the name. */
export function binNamed(code: string, stores: readonly StoreAnswer[], preferred: string): OpenBin | null {
  const inOrder = [...stores].sort((a, b) => Number(b.name === preferred) - Number(a.name === preferred));
  for (const { id, name, bins } of inOrder) {
    const bin = bins.find((one) => codeKey(one) === codeKey(code));
    if (bin !== undefined) return { location: id, store: name, bin };
  }
  return null;
}

/** What is in a bin, as its contents are asked for. */
export interface InBin {
  item: BookItem;
  barcode: string;
  lot: string;
  serial: string;
  quantity: string;
}

/** What of a bin a code means: a lot or serial number, or an item of which there is one lot only. */
export function inBinNamed(
  code: string,
  contents: readonly InBin[],
): { found: InBin } | { found: null; why: "not there" | "which" } {
  const key = codeKey(code);
  const piece = contents.filter((one) =>
    [one.lot, one.serial].some((own) => own !== "" && codeKey(own) === key),
  );
  const [only] = piece;
  if (only && piece.length === 1) return { found: only };
  const items = contents.filter(({ item, barcode }) => codeKey(item.code) === key || barcode === code);
  const [one] = items;
  if (one && items.length === 1) return { found: one };
  return { found: null, why: items.length + piece.length > 1 ? "which" : "not there" };
}

/** Adds what was scanned in a bin: all that is there where it is moved; one where it is scrapped, one more with each scan. */
export function withScanned(
  lines: readonly BookLine[],
  kind: Booking,
  { store, bin }: OpenBin,
  { item, lot, serial, quantity }: InBin,
): BookLine[] {
  const from = fromKey({ store, bin, lot, serial });
  const kept = filled(lines);
  const at = kept.findIndex((line) => line.item?.id === item.id && line.from === from);
  const known = kept[at];
  if (!known)
    return [
      ...kept,
      { ...BLANK_LINE, item, from, quantity: kind === "move" || serial !== "" ? quantity : "1" },
    ];
  if (kind === "move" || serial !== "") return kept;
  return kept.with(at, { ...known, quantity: oneMore(known.quantity) });
}

const oneMore = (quantity: string): string =>
  /^\d{1,9}$/.test(quantity) ? String(Number(quantity) + 1) : quantity;

/** Adds what was scanned of an item that comes in: one more of it, or another serial number. */
export function withReceived(lines: readonly BookLine[], item: BookItem): BookLine[] {
  const kept = filled(lines);
  const at = kept.findLastIndex((line) => line.item?.id === item.id && line.bin === "");
  const known = kept[at];
  if (known && item.tracking !== "serial")
    return kept.with(at, { ...known, quantity: oneMore(known.quantity) });
  return [...kept, { ...BLANK_LINE, item, quantity: "1" }];
}

/** Sends lines that go nowhere yet to a bin. */
export const sentTo = (lines: readonly BookLine[], { store, bin }: OpenBin): BookLine[] =>
  lines.map((line) => (isBlank(line) || line.bin !== "" ? line : { ...line, store, bin }));

/**
 * Rows of a spreadsheet: item, quantity, then bins with or without their store, then lot or serial number; of goods that come in
 * also the unit cost and the day to use them by. Items are looked up by who asks.
 */
export interface PastedBooking {
  code: string;
  quantity: string;
  from: string;
  to: string;
  piece: string;
  unitCost: string;
  expiry: string;
}

export function pastedBookings(
  rows: readonly string[][],
  kind: Booking,
  marks: Parameters<typeof parseNumber>[1],
): PastedBooking[] {
  const number = (cell: string) => (cell === "" ? "" : (parseNumber(cell, marks) ?? cell));
  return rows
    .filter(([code = ""]) => code !== "")
    .map(([code = "", quantity = "", ...rest]) => {
      const [first = "", second = "", third = "", fourth = ""] = rest;
      const row = { code, quantity: number(quantity), from: "", to: "", piece: "", unitCost: "", expiry: "" };
      if (kind === "move") return { ...row, from: first, to: second, piece: third };
      if (kind === "scrap") return { ...row, from: first, piece: second };
      return { ...row, to: first, unitCost: number(second), piece: third, expiry: fourth };
    });
}

/** A bin of a spreadsheet: "Yard Y1-A", or "Y1-A" alone. */
export function placeNamed(cell: string, stores: readonly StoreAnswer[], preferred: string) {
  const text = cell.trim();
  const store = stores.find(({ name }) => codeKey(text).startsWith(`${codeKey(name)} `));
  if (store) return { store: store.name, bin: text.slice(store.name.length).trim() };
  return binNamed(text, stores, preferred) ?? { store: preferred, bin: text };
}
