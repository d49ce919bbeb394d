import { describe, expect, it } from "vitest";
import { decimal } from "../amounts/index.ts";
import { FEED, FEED_COSTS } from "../testing/scenario.ts";
import { listCost } from "./cost.ts";
import { wholeBatches } from "./partslist.ts";

describe("a build rounded up to whole batches", () => {
  const filled = (good: string, more: Partial<typeof FEED> = {}) => {
    const found = wholeBatches({ ...FEED, ...more }, decimal(good));
    return found && [found.batches.toFixed(), found.good.toFixed()];
  };
  it("starts the least multiple of a batch, and makes what comes out good of it", () => {
    expect(filled("42")).toEqual(["6", "48"]);
    expect(filled("20", { yield: decimal(95) })).toEqual(["3", "22"]);
    expect(filled("0.5", { decimals: 1 })).toEqual(["1", "8"]);
  });
  it("is as it was where it is whole batches already, or a batch is one unit", () => {
    expect(filled("40")).toBeNull();
    expect(filled("22", { yield: decimal(95) })).toBeNull();
    expect(filled("42", { makes: decimal(1) })).toBeNull();
  });
});

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
