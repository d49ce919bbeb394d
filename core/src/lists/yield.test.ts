import { describe, expect, it } from "vitest";
import { decimal } from "../amounts/index.ts";
import { FEED, FEED_COSTS } from "../testing/scenario.ts";
import { listCost } from "./cost.ts";

describe("expected cost with yield and extra cost", () => {
  it("is figured on what is started, and borne by what comes out good", () => {
    const costs = (item: number) => FEED_COSTS[item] ?? null;
    const list = { ...FEED, yield: decimal(95), extra: decimal(5) };
    const cost = listCost(list, decimal(20), costs);
    const started = listCost(FEED, decimal(22), costs);
    expect(cost.total.eq(started.total.plus(5))).toBe(true);
    expect(cost.each.toFixed(4)).toBe(started.total.plus(5).div(20).toFixed(4));
  });
});
