import { SHIPPED_UNITS } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import {
  bodyOf,
  changeLine,
  costOfDraft,
  type DraftLine,
  emptyLine,
  firstUnit,
  removeLine,
  sentIndex,
  unitsFor,
} from "./listdraft.ts";

const units = new Map(SHIPPED_UNITS.map((unit) => [unit.code, unit]));
const part = (
  code: string,
  unit: string,
  unitCost: string | null,
  kind: "bought" | "service" = "bought",
) => ({
  id: code.length,
  ...{ code, name: code, kind, unit, unitCost },
  free: "0",
});
const line = (
  key: number,
  of: NonNullable<DraftLine["part"]>,
  quantity: string,
  unit: string,
): DraftLine => ({
  ...emptyLine(key),
  part: of,
  quantity,
  unit,
});
const draft = (...lines: DraftLine[]) => ({
  makes: "1",
  usual: "100",
  overhead: "0.10",
  lines: [...lines, emptyLine(99)],
});
const glue = part("GLUE-W", "L", "7.60");
const work = part("LAB-B", "hour", "32", "service");

describe("the draft of a parts list", () => {
  it("adds up what can be figured already, work by the minute", () => {
    const cost = costOfDraft(draft(line(0, glue, "5", "mL"), line(1, work, "4", "min")), units, "5.90");
    // 0.5 L at 7.60, 400 min at 32.00 an hour, 100 at 0.10
    expect([cost?.byLine.get(0), cost?.byLine.get(1)]).toEqual(["3.8000", "213.3333"]);
    expect([cost?.total.toFixed(4), cost?.each.toFixed(4)]).toEqual(["227.1333", "2.2713"]);
    expect(cost?.margin?.percent?.toFixed(1)).toBe("61.5");
  });
  it("waits for lines that are half typed, and names a part without a cost", () => {
    const half = [
      line(0, glue, "5x", "mL"),
      line(1, glue, "5", "g"),
      line(2, part("NEW", "pc", null), "1", "pc"),
    ];
    const cost = costOfDraft(draft(...half), units, null);
    expect([cost?.total.toFixed(2), cost?.unknown, cost?.margin]).toEqual(["10.00", [3], null]);
    expect(costOfDraft({ ...draft(), makes: "0" }, units, null)).toBeNull();
  });
  it("sends no empty line, and finds each line's place among those it sends", () => {
    const typed = { ...draft(), lines: [emptyLine(0), line(7, glue, "5", "mL"), emptyLine(8)] };
    expect(bodyOf(typed).lines).toEqual([
      { part: "GLUE-W", quantity: "5", unit: "mL", waste: "0", oncePerBuild: false },
    ]);
    expect([...sentIndex(typed)]).toEqual([[7, 0]]);
  });
  it("keeps an empty line to go on at, whichever comes first, part or quantity", () => {
    const quantity = changeLine({ ...draft(), lines: [emptyLine(4)] }, 4, { quantity: "3" });
    expect(quantity.lines.map((l) => [l.key, l.quantity])).toEqual([
      [4, "3"],
      [5, ""],
    ]);
    const both = changeLine(quantity, 4, { part: glue, unit: "L" });
    expect(both.lines.map((l) => [l.part?.code, l.quantity])).toEqual([
      ["GLUE-W", "3"],
      [undefined, ""],
    ]);
    expect(removeLine(both, 4).lines.map((l) => l.key)).toEqual([5]);
  });
  it("offers the units of the part's dimension, and begins work in minutes", () => {
    expect(unitsFor(glue, units).map((unit) => unit.value)).toEqual(["L", "mL"]);
    expect([firstUnit(glue), firstUnit(work)]).toEqual(["L", "min"]);
  });
});
