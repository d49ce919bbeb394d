import type { ShortageWay } from "@yosegi/contract";
import { NOTHING_CHECKED, packScan } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { goodRest } from "./goodrest.ts";
import { missingAfter, type ScannedPart } from "./missingafter.ts";
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
