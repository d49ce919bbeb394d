import { describe, expect, it } from "vitest";
import { Format } from "./format.ts";

const settings = { currency: "EUR", timeZone: "Europe/Vienna", today: "2026-11-23" };
const british = new Format("en-GB", settings);
const german = new Format("de-DE", settings);
const plain = (text: string) => text.replace(/[\u00a0\u202f]/g, " ");

describe("figures in the person's language", () => {
  it("keeps the decimals of the unit, and every digit of a figure no float could hold", () => {
    expect(british.quantity("249.9", 3)).toBe("249.900");
    expect(german.quantity("1234.5", 3)).toBe("1.234,500");
    expect(british.quantity("900719925474099.123457", 6)).toBe("900,719,925,474,099.123457");
  });
  it("leaves closing zeros out of sentences", () => {
    expect(british.amount("249.900", "L")).toBe("249.9 L");
    expect(british.amount("40")).toBe("40");
  });
  it("leaves what is no figure yet as it was typed", () => {
    expect([british.amount("\u200b2x", "pc"), british.amount("")]).toEqual(["2x pc", ""]);
  });
  it("tells money to the cent, a unit cost to four decimals", () => {
    expect(british.money("411.7600")).toBe("€411.76");
    expect(british.unitCost("21.6716")).toBe("€21.6716");
    expect(british.unitCost("2.1000")).toBe("€2.10");
    expect(plain(german.money("1411.76"))).toBe("1.411,76 €");
  });
  it("counts one and many", () => {
    expect([british.count(1, "item", "items"), british.count(1200, "item", "items")]).toEqual([
      "1 item",
      "1,200 items",
    ]);
  });
  it("gives a difference its sign", () => {
    expect(british.difference("1.5", 3)).toBe("+1.500");
    expect(british.difference("-0.25", 2)).toBe("-0.25");
    expect(british.difference("0", 0)).toBe("0");
    expect(british.moneyDifference("2.0250")).toBe("+€2.025");
  });
  it("tells days and moments as the company has them", () => {
    expect(british.day("2026-12-12")).toBe("12 Dec");
    expect(british.day("2027-12-12")).toBe("12 Dec 2027");
    expect(british.relativeDay("2026-11-23")).toBe("today");
    expect(british.relativeDay("2026-12-12")).toBe("in 19 days");
    expect(british.dayOf("2026-11-23T23:30:00Z")).toBe("2026-11-24");
    expect(british.moment("2026-11-23T23:30:00Z")).toBe("24 Nov, 00:30");
    expect(british.moment("2025-11-23T23:30:00Z")).toBe("24 Nov 2025, 00:30");
  });
  it("speaks English on a device that does not, with dates in its figures", () => {
    expect([german.day("2026-12-01"), german.day("2027-12-01")]).toEqual(["1.12.", "1.12.2027"]);
    expect(german.moment("2026-11-23T23:30:00Z")).toBe("24.11., 00:30");
    expect(german.relativeDay("2026-12-12")).toBe("in 19 days");
    expect(german.list(["Frame", "Pins", "Glue"])).toBe("Frame, Pins and Glue");
    expect(german.sentence(`It leaves ${german.day("2026-11-27")}`)).toMatch(/[^.]\.$/);
  });
});

describe("days as they are typed in the person's language", () => {
  it.each([
    [british, "fri", "2026-11-27"],
    [british, "12/11", "2027-11-12"],
    [german, "freitag", "2026-11-27"],
    [german, "heute", "2026-11-23"],
    [german, "12. dez", "2026-12-12"],
    [german, "12 Dec", "2026-12-12"],
    [german, "fri", "2026-11-27"],
    [british, "soon", null],
    [new Format("en-US", settings), "12/11", "2026-12-11"],
  ])("%#: %s", (format, typed, day) => {
    expect(format.parseDay(typed)).toBe(day);
  });
});
