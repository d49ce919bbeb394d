import { describe, expect, it } from "vitest";
import { NOTHING_SCANNED, type Scanned, type ScanStop, scanAt } from "./scanning.ts";

const stop = (key: string, bin: string, code: string, more: Partial<ScanStop> = {}): ScanStop => ({
  key,
  bin,
  item: { id: key.charCodeAt(0), code, tracking: "none" },
  barcode: "",
  lot: "",
  serial: "",
  quantity: "5",
  expiry: null,
  lotFixed: false,
  others: [],
  ...more,
});

const PLAIN = stop("a", "03-A", "CAN-12", { barcode: "4006381333931" });
const LOT = stop("b", "03-B", "SYR-72", {
  item: { id: 2, code: "SYR-72", tracking: "lot" },
  lot: "S-1",
  expiry: "2026-12-01",
  others: [
    { lot: "S-2", serial: "", quantity: "9", expiry: null },
    { lot: "OLD", serial: "", quantity: "9", expiry: "2026-11-01" },
  ],
});
const SERIAL = stop("c", "05-C", "SCL-E", {
  item: { id: 3, code: "SCL-E", tracking: "serial" },
  serial: "HS-1",
  quantity: "1",
  others: [{ lot: "", serial: "HS-2", quantity: "1", expiry: null }],
});
const STOPS = [PLAIN, LOT, SERIAL];

/** Scans codes one after the other; gives what each was taken for. */
function scans(codes: readonly string[], stops = STOPS): string[] {
  let scanned: Scanned = NOTHING_SCANNED;
  return codes.map((code) => {
    const { scanned: next, result } = scanAt(stops, scanned, code, "2026-11-23");
    scanned = next;
    if (!result.ok) return `${result.why}: ${result.expected}`;
    return result.what === "taken"
      ? `${next.stop} ${result.quantity.toFixed()} ${result.lot}${result.serial}`.trim()
      : `${next.stop} ${result.what}`;
  });
}

describe("a scan", () => {
  it("is bin, item and quantity, in any order that makes sense", () => {
    expect(scans(["03-A", "CAN-12", "4"])).toEqual(["a bin", "a item", "a 4"]);
    expect(scans(["4006381333931", "03-a", "all"])).toEqual(["a item", "a bin", "a 5"]);
    expect(scans(["03-A", "2,5"])).toEqual(["a bin", "a 2.5"]);
  });
  it("asks for the lot of what is kept by lot, takes another one in the bin, and refuses an expired one", () => {
    expect(scans(["03-B", "SYR-72", "5"])).toEqual(["b bin", "b item", "scan the lot first: S-1"]);
    expect(scans(["03-B", "S-1", "5"])).toEqual(["b bin", "b lot", "b 5 S-1"]);
    expect(scans(["03-B", "s-2", "ALL"])).toEqual(["b bin", "b lot", "b 5 S-2"]);
    expect(scans(["03-B", "OLD"])).toEqual(["b bin", "expired: S-1"]);
    expect(scans(["03-B", "SYR-72", "S-9"])).toEqual(["b bin", "b item", "wrong lot: S-1"]);
  });
  it("of another lot than the fixed one is refused, for it needs a reason", () => {
    const fixed = [{ ...LOT, lotFixed: true }];
    expect(scans(["03-B", "S-2", "S-1", "ALL"], fixed)).toEqual([
      "b bin",
      "other lot: S-1",
      "b lot",
      "b 5 S-1",
    ]);
  });
  it("of a serial number takes that unit at once", () => {
    expect(scans(["05-C", "HS-2"])).toEqual(["c bin", "c 1 HS-2"]);
    expect(scans(["05-C", "SCL-E", "HS-9", "1"])).toEqual([
      "c bin",
      "c item",
      "wrong serial: HS-1",
      "scan the serial first: HS-1",
    ]);
  });
  it("says what was expected where it is the wrong bin or item", () => {
    expect(scans(["09-X"])).toEqual(["wrong bin: 03-A"]);
    expect(scans(["03-A", "SYR-72"])).toEqual(["a bin", "wrong item: CAN-12"]);
    expect(scans(["03-A", "HTL-J"])).toEqual(["a bin", "wrong item: CAN-12"]);
    expect(scans(["12"])).toEqual(["scan the item first: CAN-12"]);
    expect(scans(["03-A"], [])).toEqual(["not known: "]);
  });
  it("of more than is needed anywhere is refused", () => {
    const twice = [PLAIN, { ...PLAIN, key: "e", bin: "09-A", quantity: "2" }];
    expect(scans(["03-A", "CAN-12", "7", "03-A", "8"], twice)).toEqual([
      "a bin",
      "a item",
      "a 7",
      "a bin",
      "too many: 7",
    ]);
  });
  it("leads to another stop where its bin is scanned there, and forgets what was in hand", () => {
    expect(scans(["03-A", "CAN-12", "03-B", "ALL"])).toEqual([
      "a bin",
      "a item",
      "b bin",
      "scan the lot first: S-1",
    ]);
  });
  it("of a lot that another stop in the bin is for leads there", () => {
    const two = [LOT, { ...LOT, key: "f", lot: "S-2", quantity: "3", others: [] }];
    expect(scans(["03-B", "S-2", "ALL"], two)).toEqual(["b bin", "f lot", "f 3 S-2"]);
  });
  it("finds the item among several in one bin", () => {
    const two = [PLAIN, stop("d", "03-A", "LBL-F")];
    expect(scans(["03-A", "LBL-F", "3"], two)).toEqual(["a bin", "d item", "d 3"]);
  });
});
