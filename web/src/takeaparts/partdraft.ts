import type { ItemBrief, ProposedPart } from "@yosegi/contract";
import { goodRest } from "./goodrest.ts";

/** A part of what is taken apart, as it is typed. */
export interface PartDraft {
  item: ItemBrief;
  /** Which lot or unit it is is not known: the person reads it off it. */
  isOpen: boolean;
  barcode: string;
  lot: string;
  serial: string;
  expected: string;
  good: string;
  damaged: string;
  missing: string;
  store: string;
  bin: string;
}

/** A part as it is offered: all of it good. */
export const partOf = ({ item, barcode, lot, serial, expected, home }: ProposedPart): PartDraft => ({
  item,
  isOpen: lot === "" && serial === "",
  barcode,
  lot,
  serial,
  expected,
  good: expected,
  damaged: "0",
  missing: "0",
  ...home,
});

/** Which part it is; those whose lot or number is not known are told apart by their places. */
function keysOf(parts: readonly PartDraft[]): string[] {
  const open = new Map<number, number>();
  return parts.map(({ item, isOpen, lot, serial }) => {
    if (!isOpen) return JSON.stringify([item.id, lot, serial]);
    open.set(item.id, (open.get(item.id) ?? 0) + 1);
    return JSON.stringify([item.id, open.get(item.id)]);
  });
}

const TYPED = ["damaged", "missing", "store", "bin"] as const;

/**
 * The parts of a product as they are offered now, for another quantity, unit or build of it, with what was typed of the same parts
 * as they were offered before; what was found inside beside them stays.
 */
export function offeredAgain(
  offered: readonly PartDraft[],
  before: readonly PartDraft[],
  typed: readonly PartDraft[],
): PartDraft[] {
  const places = new Map(keysOf(before).map((key, place) => [key, place]));
  const keys = keysOf(offered);
  const again = offered.map((part, i) => {
    const place = places.get(keys[i] ?? "");
    const [was, own] = place === undefined ? [] : [before[place], typed[place]];
    if (!was || !own) return part;
    if (was.expected === part.expected) return own;
    const kept = { ...part };
    for (const name of TYPED) if (own[name] !== was[name]) kept[name] = own[name];
    if (part.isOpen) Object.assign(kept, { lot: own.lot, serial: own.serial });
    return { ...kept, good: goodRest(kept.expected, kept.damaged, kept.missing) ?? own.good };
  });
  return [...again, ...typed.slice(before.length)];
}
