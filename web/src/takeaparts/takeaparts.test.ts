import type { ItemBrief, ShortageWay } from "@yosegi/contract";
import { NOTHING_CHECKED, packScan } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { goodRest } from "./goodrest.ts";
import { missingAfter, type ScannedPart } from "./missingafter.ts";
import { offeredAgain, type PartDraft } from "./partdraft.ts";
import { startOf } from "./waystart.ts";

describe("what is good of a part that is taken out", () => {
  it("is the rest of what is expected, never below zero", () => {
    expect(goodRest("20", "2", "1")).toBe("17");
    expect(goodRest("20", "", "")).toBe("20");
    expect(goodRest("0.5", "0.125", "0")).toBe("0.375");
    expect(goodRest("1", "2", "0")).toBe("0");
  });
  it("is not known while a figure can't be read", () => {
    expect(goodRest("20", "\u200btwo", "0")).toBeNull();
    expect(goodRest("", "1", "0")).toBeNull();
  });
});

it("a take-apart for a shortage begins with as many as are needed of those in one place", () => {
  const at = (quantity: string) => ({ store: "Yard", bin: "Y6-A", lot: "", serial: "", quantity });
  const way = (units: string, there: string) => startOf({ units, at: at(there) } as ShortageWay);
  expect(way("10", "20")).toEqual({ store: "Yard", bin: "Y6-A", lot: "", serial: "", quantity: "10" });
  expect(way("10", "4").quantity).toBe("4");
});

describe("parts that are offered anew", () => {
  const part = (code: string, expected: string, more: Partial<PartDraft> = {}): PartDraft => ({
    item: { id: code.length, code } as ItemBrief,
    isOpen: true,
    barcode: "",
    lot: "",
    serial: "",
    expected,
    good: expected,
    damaged: "0",
    missing: "0",
    store: "Yard",
    bin: "Y6-A",
    ...more,
  });
  const before = [part("FRM-A", "20"), part("ROOF-M", "1")];
  const found = part("HTL", "1", { bin: "Y1-A" });

  it("keep what was typed of them, and what else was inside", () => {
    const typed = [
      part("FRM-A", "20", { good: "18", damaged: "2", bin: "Y2-A" }),
      before[1] as PartDraft,
      found,
    ];
    const again = offeredAgain([part("FRM-A", "40"), part("ROOF-M", "2")], before, typed);
    expect(again.map((own) => [own.item.code, own.expected, own.good, own.damaged, own.bin])).toEqual([
      ["FRM-A", "40", "38", "2", "Y2-A"],
      ["ROOF-M", "2", "2", "0", "Y6-A"],
      ["HTL", "1", "1", "0", "Y1-A"],
    ]);
  });
  it("are as somebody corrected them while so many are expected as before", () => {
    const typed = [part("FRM-A", "19", { good: "19" }), before[1] as PartDraft];
    expect(offeredAgain([part("FRM-A", "20"), part("ROOF-M", "2")], before, typed)[0]?.expected).toBe("19");
    expect(offeredAgain([part("FRM-A", "40")], before, typed)[0]?.expected).toBe("40");
  });
  it("are those of another unit where a number says so", () => {
    const scale = (serial: string, more: Partial<PartDraft> = {}) =>
      part("SCL-E", "1", { serial, isOpen: false, ...more });
    const typed = [scale("S-1", { good: "0", damaged: "1" })];
    expect(offeredAgain([scale("S-2")], [scale("S-1")], typed)).toEqual([scale("S-2")]);
  });
});

it("what was not scanned of a product is missing, but for what is damaged", () => {
  const part = (code: string, expected: string, damaged = "0"): ScannedPart => ({
    item: { code, tracking: "none", decimals: 0 },
    barcode: "",
    lot: "",
    serial: "",
    expected,
    damaged,
    missing: "0",
  });
  const parts = [part("FRM-A", "20", "2"), part("ROOF-M", "1")];
  const pieces = parts.map((own, i) => ({ ...own, key: String(i), quantity: own.expected }));
  const one = packScan(pieces, NOTHING_CHECKED, "FRM-A").checked;
  expect(missingAfter(parts, one)).toEqual(["17", "1"]);
  expect(missingAfter(parts, packScan(pieces, one, "18").checked)).toEqual(["0", "1"]);
});
