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

/** Which numbered parts are known to be in which units of one finish, or came out of which by a rework. */
export interface UnitPart {
  posting: number;
  item: number;
  serial: string;
  part: number;
  partSerial: string;
}

/**
 * Whether a part went into a unit of a finish: where it is known of a numbered part, only there; a lot, and what is not known, went into
 * each good unit of that finish (docs/rules.md § 14).
 */
export function wentInto(
  part: TracePiece,
  unit: TracePiece,
  posting: number,
  known: readonly UnitPart[],
): boolean {
  if (part.serial === "") return true;
  const units = known.filter(
    (own) => own.posting === posting && own.part === part.item && own.partSerial === part.serial,
  );
  return units.length === 0 || units.some((own) => own.item === unit.item && own.serial === unit.serial);
}
