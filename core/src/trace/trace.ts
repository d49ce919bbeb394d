import type { Purpose } from "../stock/index.ts";

/** Why a trace ends at a step (docs/rules.md § 14). */
export const TRACE_ENDS = [
  "with a customer",
  "back from a customer",
  "from a supplier",
  "opening stock",
  "booked by hand",
  "not tracked",
  "scrapped",
  "counted",
  "sent back",
  "seen already",
] as const;
export type TraceEnd = (typeof TRACE_ENDS)[number];

/** A lot, or a unit by its serial number. What is not tracked has neither. */
export interface TracePiece {
  item: number;
  lot: string;
  serial: string;
}

export const pieceKey = ({ item, lot, serial }: TracePiece): string => JSON.stringify([item, lot, serial]);

const isSame = (a: TracePiece, b: TracePiece): boolean =>
  a.item === b.item && a.lot === b.lot && a.serial === b.serial;

export const isTracked = ({ lot, serial }: TracePiece): boolean => lot !== "" || serial !== "";

/** What a trace goes on to within a posting: from what went in to what arrived, and from what came out to what left. */
export const THROUGH = {
  forward: ["built", "recovered", "converted"],
  backward: ["used", "taken apart", "converted"],
} as const satisfies Record<string, readonly Purpose[]>;

/** Where stock is once a movement of this purpose took it out, as a trace tells it; null where it went into a build or a rework, or was taken apart. */
export function endOf(purpose: Purpose): TraceEnd | null {
  switch (purpose) {
    case "used":
    case "built":
    case "taken apart":
    case "recovered":
    case "converted":
      return null;
    case "shipped":
      return "with a customer";
    case "returned":
      return "back from a customer";
    case "bought":
      return "from a supplier";
    case "opening":
      return "opening stock";
    case "scrapped":
      return "scrapped";
    case "counted":
      return "counted";
    case "sent back":
      return "sent back";
    default:
      return "booked by hand";
  }
}

/** Which parts are known to be in which units of one finish, or went into or came out of which by a rework. */
export interface UnitPart extends TracePiece {
  posting: number;
  part: TracePiece;
}

/**
 * Whether a part went into a unit of a finish or a rework: where that is known of it, only there; what is not known went into each good
 * unit (docs/rules.md § 14).
 */
export function wentInto(
  part: TracePiece,
  unit: TracePiece,
  posting: number,
  known: readonly UnitPart[],
): boolean {
  const units = known.filter((own) => own.posting === posting && isSame(own.part, part));
  return units.length === 0 || units.some((own) => isSame(own, unit));
}
