import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, decimal } from "../amounts/index.ts";
import { timeline } from "../cover/index.ts";
import { actBy, arrivesBy, lineTotal, type Outlook, orderBy, project, toOrder } from "./index.ts";

const TODAY = "2026-11-23";

describe("what to order (docs/rules.md § 4)", () => {
  const order = (short: string, minimum: string | null, multiple: string | null) =>
    toOrder(decimal(short), {
      minimum: minimum === null ? null : decimal(minimum),
      multiple: multiple === null ? null : decimal(multiple),
    }).toFixed();
  it.each([
    ["14", "10", "6", "18"],
    ["0", "10", "6", "0"],
    ["-3", "10", "6", "0"],
    ["3", "10", "6", "12"],
    ["3", null, null, "3"],
    ["12", null, "6", "12"],
    ["0.2", null, "0.25", "0.25"],
  ])("short %s, minimum %s, multiple %s: %s", (short, minimum, multiple, expected) => {
    expect(order(short, minimum, multiple)).toBe(expected);
  });
  it.each([
    ["3", "0.335", "1.01"],
    ["3", "0.3333", "1.00"],
    ["0.5", "0.01", "0.01"],
  ])("%s at %s each come to %s on the line", (quantity, price, total) => {
    expect(lineTotal(decimal(quantity), decimal(price)).toFixed(2)).toBe(total);
  });
  it("is ordered so many days ahead, and arrives so many days on", () => {
    expect([orderBy("2026-12-02", { leadDays: 9 }), arrivesBy(TODAY, { leadDays: 9 })]).toEqual([
      TODAY,
      "2026-12-02",
    ]);
    expect([orderBy(TODAY, { leadDays: null }), arrivesBy(TODAY, { leadDays: null })]).toEqual([null, null]);
  });
});

const outlook = (change: Partial<Outlook>): Outlook => ({
  usable: 10,
  level: 0,
  needs: [],
  incoming: [],
  ...change,
});

describe("one item over all open demand", () => {
  it("falls short on the day on which needs exceed what is there and has come", () => {
    const found = project(
      outlook({
        usable: 10,
        level: 5,
        needs: [
          { day: "2026-12-01", quantity: 8 },
          { day: "2026-12-10", quantity: 9 },
        ],
        incoming: [{ day: "2026-12-05", quantity: 4 }],
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
        needs: [{ day: "2026-12-01", quantity: 4 }],
        incoming: [{ day: "2026-12-02", quantity: 9 }],
      }),
      TODAY,
    );
    expect([late.firstShort, late.comesTooLate, late.wanted]).toEqual(["2026-12-01", true, 0]);
    const sameDay = project(
      outlook({
        usable: 1,
        needs: [{ day: "2026-12-01", quantity: 4 }],
        incoming: [{ day: "2026-12-01", quantity: 9 }],
      }),
      TODAY,
    );
    expect([sameDay.firstShort, sameDay.comesTooLate]).toEqual([null, false]);
    const overdue = project(outlook({ usable: 1, needs: [{ day: "2026-11-01", quantity: 4 }] }), TODAY);
    expect([overdue.firstShort, actBy(overdue, 9)]).toEqual([TODAY, addDays(TODAY, -9)]);
  });
  it("counts what has no day, and says no day for it", () => {
    const found = project(
      outlook({ needs: [{ day: null, quantity: 25 }], incoming: [{ day: null, quantity: 5 }] }),
      TODAY,
    );
    expect(found).toMatchObject({ free: -15, projected: -10, wanted: 10, firstShort: null, firstLow: null });
    expect(actBy({ firstShort: null, firstLow: "2026-12-01" }, 9)).toBe("2026-12-01");
    expect(actBy({ firstShort: "2026-12-01", firstLow: TODAY }, null)).toBeNull();
  });
  it("refuses what it could not figure exactly", () => {
    const huge = { day: null, quantity: 9e15 };
    expect(() => project(outlook({ needs: [huge, huge] }), TODAY)).toThrow("too large");
  });
  it("agrees with the timeline, day by day", () => {
    const event = fc.record({
      in: fc.integer({ min: -3, max: 20 }),
      quantity: fc.integer({ min: 1, max: 50 }),
    });
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 0, max: 20 }),
        fc.array(event),
        fc.array(event),
        (usable, level, needs, incoming) => {
          const dated = (events: { in: number; quantity: number }[]) =>
            events.map((e) => ({ day: addDays(TODAY, e.in), quantity: e.quantity }));
          const found = project({ usable, level, needs: dated(needs), incoming: dated(incoming) }, TODAY);
          const steps = [
            ...dated(needs).map((e, i) => ({ key: `n${i}`, day: e.day, change: decimal(-e.quantity) })),
            ...dated(incoming).map((e, i) => ({ key: `i${i}`, day: e.day, change: decimal(e.quantity) })),
          ];
          const line = timeline(decimal(usable), steps, decimal(level), TODAY);
          expect([found.firstShort, found.firstLow]).toEqual([
            line.firstBelowZero,
            line.firstBelowLevel ?? null,
          ]);
          expect(line.days.at(-1)?.stock.toFixed()).toBe(String(found.projected));
        },
      ),
    );
  });
});

describe("stock day by day", () => {
  it("tells every receipt and need of a day, and what has no day apart", () => {
    const line = timeline(
      decimal(10),
      [
        { key: "B-1", day: "2026-12-01", change: decimal(-8) },
        { key: "P-1", day: "2026-11-20", change: decimal(3) },
        { key: "B-2", day: "2026-12-01", change: decimal(-6) },
        { key: "B-3", day: null, change: decimal(-1) },
      ],
      null,
      TODAY,
    );
    expect(line.days.map((d) => [d.day, d.stock.toFixed(), d.events.map((e) => e.key)])).toEqual([
      [TODAY, "13", ["P-1"]],
      ["2026-12-01", "-1", ["B-1", "B-2"]],
    ]);
    expect([line.undated.map((e) => e.key), line.firstBelowZero, line.firstBelowLevel]).toEqual([
      ["B-3"],
      "2026-12-01",
      null,
    ]);
  });
});
