import { type Day, type Decimal, decimal, sum } from "../amounts/index.ts";
import { codeKey } from "../keys.ts";
import { expired } from "../stock/index.ts";

/** What a picker with a scanner knows of a stop. */
export interface ScanStop {
  /** Tells it apart from the other stops. */
  key: string;
  bin: string;
  item: { id: number; code: string; tracking: "none" | "lot" | "serial" };
  barcode: string;
  lot: string;
  serial: string;
  /** To be fetched here. */
  quantity: string;
  expiry: Day | null;
  /** Another lot than this one needs a reason, which is typed. */
  lotFixed: boolean;
  /** Other lots or serials of the item in this bin. */
  others: readonly { lot: string; serial: string; quantity: string; expiry: Day | null }[];
}

/** What was scanned at a stop so far. */
export interface Scanned {
  stop: string | null;
  bin: boolean;
  item: boolean;
  /** The lot or serial that is in hand; null while none was scanned. */
  piece: string | null;
}

export const NOTHING_SCANNED: Scanned = { stop: null, bin: false, item: false, piece: null };

/** Why a scan is refused, and what was expected instead. */
export type ScanRefused =
  | "wrong bin"
  | "wrong item"
  | "wrong lot"
  | "other lot"
  | "wrong serial"
  | "expired"
  | "too many"
  | "scan the lot first"
  | "scan the serial first"
  | "scan the item first"
  | "not known";

export type ScanResult =
  | { ok: true; what: "bin" | "item" | "lot" | "serial" }
  /** All is scanned, and so many are taken. */
  | { ok: true; what: "taken"; quantity: Decimal; lot: string; serial: string }
  | { ok: false; why: ScanRefused; expected: string };

/** Scanned, or pressed: all that is still needed at this stop is taken. */
export const TAKE_ALL = "ALL";

/**
 * What a scan means at this moment (docs/rules.md § 13): a bin, an item, a lot or serial, or a quantity, in any order that makes sense. A
 * serial is one unit, and is taken at once; anything else is taken by its quantity, or by `TAKE_ALL`.
 */
export function scanAt(
  stops: readonly ScanStop[],
  scanned: Scanned,
  code: string,
  today: Day,
): { scanned: Scanned; result: ScanResult } {
  const key = codeKey(code);
  const at = stops.find((stop) => stop.key === scanned.stop) ?? stops[0];
  const refuse = (why: ScanRefused, expected: string) => ({
    scanned,
    result: { ok: false, why, expected } as const,
  });
  if (!at) return refuse("not known", "");

  const inBin = stops.filter((stop) => stop.bin !== "" && codeKey(stop.bin) === key);
  if (inBin.length > 0) {
    const stop = inBin.find((one) => one.key === at.key) ?? inBin[0] ?? at;
    const same = stop.key === at.key;
    return {
      scanned: { stop: stop.key, bin: true, item: same && scanned.item, piece: same ? scanned.piece : null },
      result: { ok: true, what: "bin" },
    };
  }

  const ofItem = stops.filter(
    (stop) => codeKey(stop.item.code) === key || (stop.barcode !== "" && stop.barcode === code),
  );
  if (ofItem.length > 0) {
    const here = ofItem.find((stop) => stop.key === at.key) ?? ofItem.find((stop) => stop.bin === at.bin);
    // Where no bin was scanned, the item leads to its stop.
    const stop = here ?? (scanned.bin ? undefined : ofItem[0]);
    if (!stop) return refuse("wrong item", at.item.code);
    return {
      scanned: { ...scanned, stop: stop.key, item: true, piece: stop.key === at.key ? scanned.piece : null },
      result: { ok: true, what: "item" },
    };
  }

  // A lot or serial that another stop in this bin is for leads there.
  const own = stops.find((stop) => stop.bin === at.bin && stop.key !== at.key && isPiece(stop, key));
  const here = isPiece(at, key) ? at : (own ?? at);
  const piece = pieceIn(here, key);
  if (piece) {
    if (expired(piece.expiry, today)) return refuse("expired", at.serial || at.lot);
    if (here.lotFixed && piece.serial === "" && piece.lot !== here.lot) return refuse("other lot", here.lot);
    const now = { stop: here.key, bin: scanned.bin, item: true, piece: piece.serial || piece.lot };
    if (piece.serial === "") return { scanned: now, result: { ok: true, what: "lot" } };
    return {
      scanned: { ...now, item: false, piece: null },
      result: { ok: true, what: "taken", quantity: decimal(1), lot: piece.lot, serial: piece.serial },
    };
  }

  const quantity =
    key === TAKE_ALL ? at.quantity : /^\d{1,6}([.,]\d{1,6})?$/.test(code) ? code.replace(",", ".") : null;
  if (quantity !== null) {
    if (at.item.tracking === "serial") return refuse("scan the serial first", at.serial);
    if (at.item.tracking === "lot" && scanned.piece === null) return refuse("scan the lot first", at.lot);
    if (!scanned.item && !scanned.bin) return refuse("scan the item first", at.item.code);
    const needed = neededOf(stops, at.item.id);
    if (needed.lt(quantity)) return refuse("too many", needed.toFixed());
    return {
      scanned: { ...scanned, item: false, piece: null },
      result: {
        ok: true,
        what: "taken",
        quantity: decimal(quantity),
        lot: scanned.piece ?? at.lot,
        serial: "",
      },
    };
  }

  // What is neither is taken for what comes next.
  if (!scanned.bin && !scanned.item) return refuse("wrong bin", at.bin);
  if (!scanned.item) return refuse("wrong item", at.item.code);
  if (at.item.tracking === "lot") return refuse("wrong lot", at.lot);
  if (at.item.tracking === "serial") return refuse("wrong serial", at.serial);
  return refuse("not known", at.item.code);
}

/** What is still to be fetched of an item, at all stops. */
const neededOf = (stops: readonly ScanStop[], item: number): Decimal =>
  sum(stops.filter((stop) => stop.item.id === item).map((stop) => decimal(stop.quantity)));

const isPiece = ({ lot, serial }: Pick<ScanStop, "lot" | "serial">, key: string): boolean =>
  key !== "" && codeKey(serial || lot) === key;

/** The lot or serial with this code that is in the bin of a stop. */
const pieceIn = ({ lot, serial, expiry, quantity, others }: ScanStop, key: string) =>
  [{ lot, serial, expiry, quantity }, ...others].find((one) => isPiece(one, key));
