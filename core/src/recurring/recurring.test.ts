import { describe, expect, it } from "vitest";
import { decimal, weekday } from "../amounts/index.ts";
import { nextRecurring, recurringDay, toBuildForTarget } from "./recurring.ts";

describe("what is built again and again", () => {
  it("is built up to what is kept, at least a batch", () => {
    const rule = { target: decimal(10), batch: decimal(8) };
    const build = (free: number, coming: number, planned = 0) =>
      toBuildForTarget(rule, decimal(free), decimal(coming), decimal(planned)).toFixed();
    // What stands on drafts counts against it.
    expect([build(4, 2, 4), build(4, 2, 3)]).toEqual(["0", "8"]);
    expect([build(10, 0), build(9, 0), build(1, 0), build(-4, 0), build(4, 6), build(4, 5)]).toEqual([
      "0",
      "8",
      "9",
      "14",
      "0",
      "8",
    ]);
  });
  it("falls due on its weekdays, once each, and only the latest of those that were missed", () => {
    const rule = { weekdays: [1, 4], from: "2026-11-10" };
    // 2026-11-23 is a Monday.
    expect([weekday("2026-11-23"), weekday("2026-11-29")]).toEqual([1, 7]);
    expect(recurringDay(rule, null, "2026-11-23")).toBe("2026-11-23");
    expect(recurringDay(rule, "2026-11-23", "2026-11-25")).toBeNull();
    expect(recurringDay(rule, "2026-11-12", "2026-11-25")).toBe("2026-11-23");
    expect(recurringDay(rule, null, "2026-11-11")).toBeNull();
    expect(recurringDay({ ...rule, weekdays: [] }, null, "2026-11-25")).toBeNull();
    expect([nextRecurring(rule, "2026-11-23"), nextRecurring(rule, "2026-11-01")]).toEqual([
      "2026-11-26",
      "2026-11-12",
    ]);
  });
});
