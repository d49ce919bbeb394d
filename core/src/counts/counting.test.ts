import { describe, expect, it } from "vitest";
import { decimal } from "../amounts/index.ts";
import { binsToCount, type CountableStock, thereNow } from "./counting.ts";

describe("what is there now of what was counted", () => {
  it("is what was counted, plus what came and less what left since", () => {
    const counted = { counted: decimal(18), books: decimal(20), corrected: decimal(0) };
    expect(thereNow(counted, decimal(20)).toFixed()).toBe("18");
    expect(thereNow(counted, decimal(15)).toFixed()).toBe("13");
    expect(thereNow(counted, decimal(26)).toFixed()).toBe("24");
    // More left since than was counted.
    expect(thereNow(counted, decimal(1)).toFixed()).toBe("-1");
  });
  it("is not what another count has put right already, taken off once more", () => {
    // 20 by the books, 18 counted twice: the first took the 2 off, and 3 have left since.
    const again = { counted: decimal(18), books: decimal(20), corrected: decimal(-2) };
    expect(thereNow(again, decimal(18)).toFixed()).toBe("18");
    expect(thereNow(again, decimal(15)).toFixed()).toBe("15");
  });
});

describe("what to count next", () => {
  const stock = (bin: string, change: Partial<CountableStock>): CountableStock => ({
    item: 1,
    lot: "",
    serial: "",
    from: { location: 1, bin },
    quantity: decimal(10),
    poolValue: decimal(100),
    poolQuantity: decimal(10),
    moves: 1,
    lastCounted: null,
    ...change,
  });
  const order = (...all: CountableStock[]) => binsToCount(all).map(({ bin }) => bin);

  it("is what is worth much and moved often", () => {
    expect(order(stock("A", {}), stock("B", { moves: 5 }), stock("C", { poolValue: decimal(300) }))).toEqual([
      "B",
      "C",
      "A",
    ]);
  });
  it("is, where nothing moved, what was never counted, then what was counted longest ago", () => {
    const still = { moves: 0 };
    expect(
      order(
        stock("A", { ...still, lastCounted: "2026-10-01" }),
        stock("B", { ...still, lastCounted: "2026-09-01" }),
        stock("C", still),
      ),
    ).toEqual(["C", "B", "A"]);
  });
  it("adds up what is in one bin, each part of a pool by its share", () => {
    const [bin] = binsToCount([
      stock("A", { quantity: decimal(4), moves: 2, lastCounted: "2026-10-01" }),
      stock("A", { item: 2, moves: 3, lastCounted: "2026-09-01" }),
    ]);
    expect([bin?.value.toFixed(), bin?.moves, bin?.items, bin?.weight.toFixed(), bin?.lastCounted]).toEqual([
      "140",
      5,
      2,
      "380",
      "2026-09-01",
    ]);
  });
  it("knows no value where the pool is empty", () => {
    expect(binsToCount([stock("A", { poolQuantity: decimal(0) })])[0]?.value.toFixed()).toBe("0");
  });
});
