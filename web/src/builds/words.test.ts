import type { BuildRow } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { Format } from "../ui/index.ts";
import { leavesRest } from "./rest.ts";
import { buildWords, groupOf } from "./words.ts";

const format = new Format("en-GB", { currency: "EUR", timeZone: "UTC", today: "2026-11-23" });
const build = (change: Partial<BuildRow>): BuildRow => ({
  id: 1,
  number: "B-1",
  product: {
    ...{ id: 1, code: "FRM-A", name: "Frame", kind: "built", tracking: "none", unit: "pc", decimals: 0 },
    ...{ state: "active", notCounted: false, packs: [], thumbnail: null },
  },
  quantity: "400",
  good: "0",
  rejected: "0",
  stage: "queued",
  due: null,
  waitsFor: [],
  ...change,
});

describe("a build in the list", () => {
  it.each([
    [{}, "B-1 · queued · parts there"],
    [{ good: "100", waitsFor: ["Wax", "Glue"] }, "B-1 · queued · 100 made · waits for Wax and Glue"],
    [{ stage: "finished" as const, rejected: "2" }, "B-1 · finished · 2 rejected"],
  ])("%o", (change, words) => {
    expect(buildWords(build(change), format)).toBe(words);
  });
  it("stands under what matters of its day", () => {
    const group = (change: Partial<BuildRow>) => groupOf(build(change), "2026-11-23");
    expect([
      group({ due: "2026-11-22" }),
      group({ due: "2026-11-23" }),
      group({ due: "2026-11-24" }),
      group({}),
    ]).toEqual(["Overdue", "Due today", "Due later", "No due day"]);
    expect(group({ due: "2026-11-01", stage: "finished" })).toBe("Finished");
  });
  it("leaves a rest only where good and rejected are fewer than open", () => {
    expect([leavesRest("10", "1", "20"), leavesRest("19", "1", "20"), leavesRest("x", "1", "20")]).toEqual([
      true,
      false,
      false,
    ]);
  });
});
