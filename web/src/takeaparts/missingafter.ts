import { decimal, max, type PackChecked, type PackedPiece, ZERO } from "@yosegi/core";

/** A part of what is taken apart, as it stands in the form. */
export interface ScannedPart extends Omit<PackedPiece, "key" | "quantity"> {
  expected: string;
  damaged: string;
  missing: string;
}

const PLAIN = /^\d+(\.\d+)?$/;

/** The parts as they are scanned. */
export const piecesOf = (parts: readonly ScannedPart[]): PackedPiece[] =>
  parts.map((part, place) => ({
    ...part,
    key: String(place),
    quantity: PLAIN.test(part.expected) ? part.expected : "0",
  }));

/** What is missing of each part once so much was scanned: all of it that is neither scanned nor damaged. */
export const missingAfter = (parts: readonly ScannedPart[], { done }: PackChecked): string[] =>
  piecesOf(parts).map(({ key, quantity }, place) => {
    const damaged = parts[place]?.damaged ?? "0";
    const rest = decimal(quantity).minus(done.get(key) ?? ZERO);
    return max(ZERO, rest.minus(PLAIN.test(damaged) ? decimal(damaged) : ZERO)).toFixed();
  });
