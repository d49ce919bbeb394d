import { numberMarks, SHIPPED_UNITS } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { figuresOf, priceLeaving } from "./figures.ts";
import {
  bodyOf,
  choosePart,
  type DraftLine,
  type DraftList,
  type DraftPart,
  emptyLine,
  firstUnit,
  unitsFor,
} from "./listdraft.ts";
import { insertRows, pastedRows } from "./pastedrows.ts";

const units = new Map(SHIPPED_UNITS.map((unit) => [unit.code, unit]));

const english = numberMarks("en-GB");

const part = (
  code: string,
  unit: string,
  unitCost: string | null,
  change: Partial<DraftPart> = {},
): DraftPart => ({
  id: code.length,
  code,
  name: code,
  kind: "bought",
  unit,
  currentCost: unitCost === null ? null : { amount: unitCost, per: "1" },
  free: "0",
  notStockTracked: false,
  ...change,
});

const line = (key: number, of: DraftPart, quantity: string, unit: string): DraftLine => ({
  ...emptyLine(key),
  part: of,
  quantity,
  unit,
});

const draft = (...lines: DraftLine[]): DraftList => ({
  from: null,
  makes: "1",
  usual: "100",
  overhead: "0.10",
  extra: "0",
  yield: "100",
  instructions: "",
  price: "5.90",
  lines: [...lines, emptyLine(99)],
});

const glue = part("GLUE-W", "L", "7.60", { free: "0.52" });

const work = part("LAB-B", "hour", "32", { kind: "service" });

const codes = (list: DraftList) => list.lines.map((l) => l.part?.code ?? l.pasted);

describe("the draft of a parts list", () => {
  it("adds up what can be figured already, work by the minute", () => {
    const figures = figuresOf(draft(line(0, glue, "5", "mL"), line(1, work, "4", "min")), units, "pc");
    // 0.5 L at 7.60, 400 min at 32.00 an hour, 100 at 0.10
    expect([figures?.byLine.get(0), figures?.byLine.get(1)]).toEqual(["3.8000", "213.3333"]);
    expect([figures?.cost.total.toFixed(4), figures?.cost.each.toFixed(4)]).toEqual(["227.1333", "2.2713"]);
    expect(figures?.margin?.percent?.toFixed(1)).toBe("61.5");
  });
  it("tells how far each part reaches, how many it makes now, and what goes in against what comes out", () => {
    const ask = draft(line(0, glue, "5", "mL"), { ...line(1, glue, "1", "L"), optional: true });
    const figures = figuresOf(ask, units, "pc");
    // 0.52 L are 104 times 5 mL; an optional line is not taken unasked
    expect([figures?.makesNow, figures?.reach.get(0), figures?.reach.has(1)]).toEqual(["104", "104", false]);
    expect([...(figures?.limiting ?? [])]).toEqual([0, 1]);
    expect(figuresOf(draft(line(0, glue, "1.3", "L")), units, "L")?.mixed).toBe("1.3");
  });
  it("waits for lines that are half typed, and names a part without a cost", () => {
    const half = [
      line(0, glue, "5x", "mL"),
      line(1, glue, "5", "g"),
      line(2, part("NEW", "pc", null), "1", "pc"),
    ];
    const figures = figuresOf({ ...draft(...half), price: "" }, units, "pc");
    expect([figures?.cost.total.toFixed(2), figures?.cost.unknown, figures?.margin]).toEqual([
      "10.00",
      [3],
      null,
    ]);
    for (const bad of [{ makes: "0" }, { yield: "101" }, { extra: "-1" }])
      expect(figuresOf({ ...draft(), ...bad }, units, "pc")).toBeNull();
  });
  it("sends no empty line", () => {
    const typed = { ...draft(), lines: [emptyLine(0), line(7, glue, "5", "mL"), emptyLine(8)] };
    expect(bodyOf(typed, 3)).toMatchObject({
      list: 3,
      price: "5.90",
      lines: [{ part: "GLUE-W", quantity: "5", unit: "mL", waste: "0", share: null, substitutes: [] }],
    });
  });
  it("takes a part in its own unit, drawn as its group says", () => {
    expect(choosePart({ ...glue, drawnAt: "finish" })).toMatchObject({
      unit: "L",
      drawnAt: "finish",
      pasted: "",
    });
    expect(choosePart(null)).toEqual({ part: null, pasted: "", unit: "" });
  });
  it("offers the units of the part's dimension, and begins work in minutes", () => {
    expect(unitsFor(glue, units).map((unit) => unit.value)).toEqual(["L", "mL"]);
    expect([firstUnit(glue), firstUnit(work)]).toEqual(["L", "min"]);
  });
});

describe("rows from a spreadsheet", () => {
  it("are parts, with numbers in the person's language", () => {
    const cells = [
      ["BOX-D", "2", "pc"],
      ["GLUE-W", "0.005", "L", "2.5%"],
      ["", "7"],
    ];
    expect(pastedRows(cells, english)).toEqual([
      { code: "BOX-D", quantity: "2", unit: "pc", waste: "0" },
      { code: "GLUE-W", quantity: "0.005", unit: "L", waste: "2.5" },
    ]);
    expect(pastedRows([["BOX-D", "1.000,5"]], numberMarks("de-DE"))[0]?.quantity).toBe("1000.5");
    expect(pastedRows([["BOX-D", "two"]], english)[0]?.quantity).toBe("two");
  });
  it("go where they are pasted, and keep a code that is not known to be mended", () => {
    const rows = pastedRows(
      [
        ["GLUE-W", "5", "mL"],
        ["NONE-1", "1"],
      ],
      english,
    );
    const before = draft(line(0, work, "1", "min"));
    const after = insertRows(before, 1, rows, [glue, null]);
    expect(codes(after)).toEqual(["LAB-B", "GLUE-W", "NONE-1"]);
    expect(after.lines.map((l) => l.unit)).toEqual(["min", "mL", ""]);
    expect(new Set(after.lines.map((l) => l.key)).size).toBe(3);
    expect(bodyOf(after, null).lines[2]?.part).toBe("NONE-1");
    expect(codes(insertRows(before, 0, rows, [glue, null]))).toEqual(["GLUE-W", "NONE-1", "LAB-B", ""]);
  });
});

describe("a price from a margin", () => {
  const each = figuresOf(draft(line(0, glue, "1", "L")), units, "pc")?.cost.each;
  it.each([
    // a litre at 7.60 and 0.10 of overhead cost 7.70
    ["money", "2.30", "10.00"],
    ["percent", "23", "10.00"],
    ["percent", "100", null],
    ["money", "-9", null],
    ["money", "much", null],
  ] as const)("in %s of %s", (as, text, price) => {
    expect(each && priceLeaving(each, as, text, 2)).toBe(price);
  });
});
