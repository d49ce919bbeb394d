import { describe, expect, it } from "vitest";
import { isChecked, NOTHING_CHECKED, type PackChecked, type PackedPiece, packScan } from "./packscan.ts";

const piece = (key: string, quantity: string, more: Partial<PackedPiece> = {}): PackedPiece => ({
  key,
  item: { code: key, tracking: "none", decimals: 0 },
  barcode: "",
  lot: "",
  serial: "",
  quantity,
  ...more,
});
const syrup = { code: "SYR-72", tracking: "lot" as const, decimals: 3 };
const scale = { code: "SCL-E", tracking: "serial" as const, decimals: 0 };
const PACKED = [
  piece("HTL-J", "3", { barcode: "29001" }),
  piece("a", "2.5", { item: syrup, lot: "HS-1" }),
  piece("b", "1", { item: syrup, lot: "HS-2" }),
  piece("c", "1", { item: scale, serial: "SC-1" }),
];

/** Scans one code after the other; says what the last came to. */
function scanned(...codes: string[]) {
  let checked: PackChecked = NOTHING_CHECKED;
  let last = "";
  for (const code of codes) {
    const { checked: next, result } = packScan(PACKED, checked, code);
    checked = next;
    last = result.ok ? `${result.piece.key} ${result.done.toFixed()}` : result.why;
  }
  return { last, all: PACKED.filter((one) => isChecked(checked, one)).map(({ key }) => key) };
}

describe("packed goods are checked by scan", () => {
  it.each([
    [["HTL-J"], "HTL-J 1"],
    [["htl-j", "29001"], "HTL-J 2"],
    [["HTL-J", "3"], "HTL-J 3"],
    [["HTL-J", "ALL"], "HTL-J 3"],
    [["HTL-J", "4"], "too many"],
    [["HTL-J", "HTL-J", "HTL-J", "HTL-J"], "too many"],
    // What is measured is all there with one scan.
    [["HS-1"], "a 2.5"],
    [["SYR-72"], "which"],
    [["SC-1"], "c 1"],
    [["SC-1", "SC-1"], "too many"],
    // A unit with a number of its own is not checked by its item.
    [["SCL-E"], "not packed"],
    [["SMK-S"], "not packed"],
    [["2"], "scan it first"],
  ])("%j is %s", (codes, last) => {
    expect(scanned(...codes).last).toBe(last);
  });
  it("until all is there", () => {
    expect(scanned("29001", "ALL", "HS-2", "HS-1", "SC-1").all).toEqual(["HTL-J", "a", "b", "c"]);
  });
});
