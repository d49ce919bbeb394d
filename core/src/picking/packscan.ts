import { type Decimal, decimal, min, ONE, ZERO } from "../amounts/index.ts";
import { codeKey } from "../keys.ts";
import { TAKE_ALL } from "./scanning.ts";

/** What of an order is packed, as it is checked. */
export interface PackedPiece {
  /** Tells it apart from the others. */
  key: string;
  item: { code: string; tracking: "none" | "lot" | "serial"; decimals: number };
  barcode: string;
  lot: string;
  serial: string;
  quantity: string;
}

/** How much of each piece was checked, and which one was scanned last. */
export interface PackChecked {
  last: string | null;
  done: ReadonlyMap<string, Decimal>;
}

export const NOTHING_CHECKED: PackChecked = { last: null, done: new Map() };

export type PackScan =
  | { ok: true; piece: PackedPiece; done: Decimal }
  | { ok: false; why: "not packed" | "too many" | "which" | "scan it first" };

const doneOf = ({ done }: PackChecked, { key }: PackedPiece): Decimal => done.get(key) ?? ZERO;

export const isChecked = (checked: PackChecked, piece: PackedPiece): boolean =>
  doneOf(checked, piece).eq(piece.quantity);

/**
 * What a scan means while packed goods are checked: one more of a piece, by its item, lot or serial number; all of what is measured, not
 * counted; a number says how many of the piece scanned last, `TAKE_ALL` that all of it are there.
 */
export function packScan(
  pieces: readonly PackedPiece[],
  checked: PackChecked,
  code: string,
): { checked: PackChecked; result: PackScan } {
  const refuse = (why: Extract<PackScan, { ok: false }>["why"]) => ({
    checked,
    result: { ok: false as const, why },
  });
  const named = pieces.filter((piece) => isNamed(piece, code));
  const last = pieces.find(({ key }) => key === checked.last);
  if (named.length === 0) {
    const isNumber = /^\d{1,6}([.,]\d{1,6})?$/.test(code);
    if (codeKey(code) !== codeKey(TAKE_ALL) && !isNumber) return refuse("not packed");
    if (!last) return refuse("scan it first");
    const done = isNumber ? decimal(code.replace(",", ".")) : decimal(last.quantity);
    return done.gt(last.quantity) ? refuse("too many") : accept(checked, last, done);
  }
  // Of several lots only a scan of one says which.
  if (
    new Set(named.map(({ lot }) => lot)).size > 1 &&
    named.some(({ item }) => codeKey(item.code) === codeKey(code))
  )
    return refuse("which");
  const piece = named.find((one) => !isChecked(checked, one)) ?? named[0];
  if (!piece) return refuse("not packed");
  const done = piece.item.decimals > 0 ? decimal(piece.quantity) : doneOf(checked, piece).plus(ONE);
  if (done.gt(piece.quantity)) return refuse("too many");
  return accept(checked, piece, done);
}

function accept(checked: PackChecked, piece: PackedPiece, done: Decimal) {
  const next = {
    last: piece.key,
    done: new Map(checked.done).set(piece.key, min(done, decimal(piece.quantity))),
  };
  return { checked: next, result: { ok: true as const, piece, done } };
}

/** A serial number names its unit alone; a unit with one is not checked by its item. */
function isNamed({ item, barcode, lot, serial }: PackedPiece, code: string): boolean {
  const key = codeKey(code);
  if (serial !== "") return codeKey(serial) === key;
  return (
    codeKey(item.code) === key || (barcode !== "" && barcode === code) || (lot !== "" && codeKey(lot) === key)
  );
}
