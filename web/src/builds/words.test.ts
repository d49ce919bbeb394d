import type { BuildRow } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { copiesOf } from "../labels/index.ts";
import { Format } from "../ui/index.ts";
import { leavesRest } from "./rest.ts";
import { buildWords, groupOf } from "./words.ts";

const format = new Format("en-GB", { currency: "EUR", timeZone: "UTC", today: "2026-11-23" });

const build = (change: Partial<BuildRow>): BuildRow => ({
  id: 1,
  number: "B-1",
  product: {
    id: 1,
    code: "FRM-A",
    name: "Frame",
    kind: "built",
    tracking: "none",
    unit: "pc",
    decimals: 0,
    state: "active",
    notStockTracked: false,
    packs: [],
    thumbnail: null,
  },
  quantity: "400",
  good: "0",
  rejected: "0",
  stage: "queued",
  due: null,
  start: null,
  priority: 1,
  assigned: null,
  costTag: "",
  customer: null,
  orders: [],
  subcontractor: null,
  recurring: false,
  waitsFor: [],
  overdue: false,
  late: false,
  ready: false,
  blocked: false,
  ...change,
});

describe("a build in the list", () => {
  it.each([
    [{ ready: true }, "B-1 · queued · parts available"],
    [
      { good: "100", blocked: true, waitsFor: ["Wax", "Glue"] },
      "B-1 · queued · 100 made · waits for Wax and Glue",
    ],
    [{ stage: "finished" as const, rejected: "2" }, "B-1 · finished · 2 rejected"],
    [
      { stage: "on the bench" as const, ready: true, assigned: { id: 2, name: "Tobias" } },
      "B-1 · on the bench · ready to continue · Tobias",
    ],
    [
      { late: true, start: "2026-11-20", customer: { id: 1, code: "TARN", name: "Tarnholt Bee Club" } },
      "B-1 · queued · start by 20 Nov · for Tarnholt Bee Club",
    ],
  ])("%o", (change, words) => {
    expect(buildWords(build(change), format)).toBe(words);
  });
  it("stands under what matters of its day", () => {
    const group = (change: Partial<BuildRow>) => groupOf(build(change), "2026-11-23");
    expect([
      group({ due: "2026-11-22", overdue: true }),
      group({ due: "2026-11-23" }),
      group({ due: "2026-11-24" }),
      group({}),
    ]).toEqual(["Overdue", "Due today", "Due later", "No due date"]);
    expect(group({ due: "2026-11-01", stage: "finished" })).toBe("Finished");
  });
  it("counts each label as often as it has copies", () => {
    expect(copiesOf([{ copies: 8 }, { copies: 1 }])).toBe(9);
  });
  it("leaves a rest only where good and rejected are fewer than open", () => {
    expect([leavesRest("10", "1", "20"), leavesRest("19", "1", "20"), leavesRest("x", "1", "20")]).toEqual([
      true,
      false,
      false,
    ]);
  });
});
