import { describe, expect, it } from "vitest";
import { addDays } from "../amounts/index.ts";
import { actBy, type Outlook, project } from "./projection.ts";
import { timeline } from "./timeline.ts";

const TODAY = "2026-11-23";

const outlook = (change: Partial<Outlook>): Outlook => ({
  usable: 10,
  level: 0,
  changes: [],
  ...change,
});

const needs = (day: string | null, quantity: number) => ({ day, change: -quantity });

const comes = (day: string | null, quantity: number) => ({ day, change: quantity });

describe("one item over all open demand", () => {
  it("falls short on the day on which needs exceed what is there and has come", () => {
    const found = project(
      outlook({
        usable: 10,
        level: 5,
        changes: [needs("2026-12-01", 8), needs("2026-12-10", 9), comes("2026-12-05", 4)],
      }),
      TODAY,
    );
    // 10, then 2 on 1 December (below 5), 6 on the 5th, −3 on the 10th; 8 more bring it up to its level
    expect(found).toEqual({
      free: -7,
      projected: -3,
      wanted: 8,
      firstShort: "2026-12-10",
      firstLow: "2026-12-01",
      comesTooLate: false,
    });
    expect(actBy(found, 9)).toBe("2026-12-01");
  });
  it("sees what comes too late, takes one day's needs and receipts together, and what is overdue as of today", () => {
    const late = project(
      outlook({
        usable: 1,
        changes: [needs("2026-12-01", 4), comes("2026-12-02", 9)],
      }),
      TODAY,
    );
    expect([late.firstShort, late.comesTooLate, late.wanted]).toEqual(["2026-12-01", true, 0]);
    const sameDay = project(
      outlook({
        usable: 1,
        changes: [needs("2026-12-01", 4), comes("2026-12-01", 9)],
      }),
      TODAY,
    );
    expect([sameDay.firstShort, sameDay.comesTooLate]).toEqual([null, false]);
    const overdue = project(outlook({ usable: 1, changes: [needs("2026-11-01", 4)] }), TODAY);
    expect([overdue.firstShort, actBy(overdue, 9)]).toEqual([TODAY, addDays(TODAY, -9)]);
  });
  it("counts what has no day, and says no day for it", () => {
    const found = project(outlook({ changes: [needs(null, 25), comes(null, 5)] }), TODAY);
    expect(found).toMatchObject({ free: -15, projected: -10, wanted: 10, firstShort: null, firstLow: null });
    expect(actBy({ firstShort: null, firstLow: "2026-12-01" }, 9)).toBe("2026-12-01");
    expect(actBy({ firstShort: "2026-12-01", firstLow: TODAY }, null)).toBeNull();
  });
  it("refuses what it could not figure exactly", () => {
    const huge = needs(null, 9e15);
    expect(() => project(outlook({ changes: [huge, huge] }), TODAY)).toThrow("too large");
  });
});

describe("stock day by day", () => {
  it("tells every receipt and need of a day, and what has no day apart", () => {
    const line = timeline(
      10,
      [
        { document: "B-1", ...needs("2026-12-01", 8) },
        { document: "P-1", ...comes("2026-11-20", 3) },
        { document: "B-2", ...needs("2026-12-01", 6) },
        { document: "B-3", ...needs(null, 1) },
      ],
      null,
      TODAY,
    );
    expect(line.days.map((d) => [d.day, d.stock, d.changes.map((c) => c.document)])).toEqual([
      [TODAY, 13, ["P-1"]],
      ["2026-12-01", -1, ["B-1", "B-2"]],
    ]);
    expect([line.undated.map((c) => c.document), line.firstShort, line.firstLow]).toEqual([
      ["B-3"],
      "2026-12-01",
      null,
    ]);
  });
});
