/** Where a unit is that left stock, as its serial number says (docs/rules.md § 8). */
export type Gone =
  | "inside a unit"
  | "with a customer"
  | "back with its supplier"
  | "scrapped"
  | "taken apart"
  | "counted away"
  | "another item";

interface PurposeRule {
  /** Its value crosses the company's border: it comes from, or goes to, somebody else. All else must balance within a posting. */
  outside: boolean;
  /** Where a serial number is once a movement of this purpose took it out of stock; null where none does. */
  gone: Gone | null;
  /** From where a serial number may come back by it, besides one that never was. */
  from: readonly Gone[];
}

const inside: PurposeRule = { outside: false, gone: null, from: [] };
const outside: PurposeRule = { outside: true, gone: null, from: [] };

/** What movements are for (docs/rules.md § 9), and what follows from it. A new purpose is one more row. */
export const PURPOSES = {
  opening: outside,
  bought: { ...outside, from: ["back with its supplier"] },
  /** A price put right afterwards: value alone. */
  corrected: outside,
  shipped: { ...outside, gone: "with a customer" },
  returned: { ...outside, from: ["with a customer"] },
  "sent back": { ...outside, gone: "back with its supplier" },
  "handed out": inside,
  "returned to stock": inside,
  moved: inside,
  /** Fetched for an order: still in stock, for that order alone. */
  packed: inside,
  /** A part that went into a build. */
  used: { ...inside, gone: "inside a unit" },
  built: inside,
  counted: { ...inside, gone: "counted away", from: ["counted away"] },
  scrapped: { ...inside, gone: "scrapped" },
  "taken apart": { ...inside, gone: "taken apart" },
  /** A part that a take-apart or a rework took out of a unit. */
  recovered: { ...inside, from: ["inside a unit"] },
  /** A unit that a rework changed leaves as what it was, and comes in as what it is now, with its number. */
  converted: { ...inside, gone: "another item", from: ["another item"] },
} as const satisfies Record<string, PurposeRule>;
export type Purpose = keyof typeof PURPOSES;

/** Purposes whose value comes from outside or goes there, so that nothing within the posting answers for it. */
export const OUTSIDE_PURPOSES = (Object.keys(PURPOSES) as Purpose[]).filter(
  (purpose) => PURPOSES[purpose].outside,
);

/** Whether a serial number that is gone may come into stock by a purpose; `null` where it never was in stock, or is forgotten. */
export function mayComeIn(gone: Gone | null, purpose: Purpose): boolean {
  const { from }: PurposeRule = PURPOSES[purpose];
  return gone === null || from.includes(gone);
}

/** What moved a serial number: into a location, or out of stock. */
export interface SerialMove {
  posting: number;
  /** The posting that this one took back; null where it took none back. */
  undoes: number | null;
  purpose: Purpose;
  /** It came to a location; else it left stock. */
  arrives: boolean;
}

/**
 * The movement that says where a serial number is (docs/rules.md § 8), given all of its movements in the order of entry;
 * null where it never was in stock, or all that brought it was undone. What an undo took out is as it was before that.
 */
export function lastSerialMove<Move extends SerialMove>(moves: readonly Move[]): Move | null {
  let end = moves.length;
  for (;;) {
    const last = moves[end - 1];
    if (!last) return null;
    if (last.arrives || last.undoes === null) return last;
    end = moves.findIndex((move) => move.posting === last.undoes);
  }
}

/** What a posting is of: the event that its movements record together. */
export const POSTING_KINDS = [
  "opening",
  "receipt",
  "hand out",
  "pick",
  "return to stock",
  "finish",
  "split",
  "correction",
  "count",
  "shipment",
  "move",
  "scrap",
  "return",
  "inspection",
  "take-apart",
  "return to supplier",
  "rework",
] as const;
export type PostingKind = (typeof POSTING_KINDS)[number];
