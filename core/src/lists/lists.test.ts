import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal, eachAt, type Rate, rateOf } from "../amounts/index.ts";
import { margin } from "../prices/index.ts";
import { FEED, FEED_COSTS, line, list, SHEET, SYRUP, WORK } from "../testing/scenario.ts";
import { type CostFacts, listCost, unitCosts } from "./cost.ts";
import { lineNeed, nextNeed, startFor } from "./partslist.ts";

const stocked = FEED.lines.filter((l) => !l.service);

describe("need of FEED-12 (docs/rules.md § 2)", () => {
  it.each([
    ["20", ["249.900", "0.100", "20", "21", "1"]],
    ["10", ["124.950", "0.050", "10", "11", "1"]],
    ["7", ["87.465", "0.035", "7", "8", "1"]],
    ["0", ["0.000", "0.000", "0", "0", "0"]],
  ])("for %s", (n, needs) => {
    const figures = stocked.map((l) => lineNeed(l, FEED.makes, decimal(n)).toFixed(l.stockUnit.decimals));
    expect(figures).toEqual(needs);
  });
  it("plans work in the unit of its line, so minutes stay minutes", () => {
    const work = FEED.lines.find((l) => l.item === WORK);
    expect(work && lineNeed(work, FEED.makes, decimal(20)).toFixed()).toBe("30");
  });
  it("draws 11 and 10 labels for two halves, as 20 takes 21; the sheet once", () => {
    const halves = (item: number) =>
      ["0", "10"].map((done) => {
        const l = FEED.lines.find((x) => x.item === item);
        return l && nextNeed(l, FEED.makes, decimal(done), decimal(10)).toFixed();
      });
    expect(halves(4)).toEqual(["11", "10"]);
    expect(halves(SHEET)).toEqual(["1", "0"]);
  });
  it("starts 22 for 20 good at 95 %", () => {
    expect(startFor({ yield: decimal(95), decimals: 0 }, decimal(20)).toFixed()).toBe("22");
  });
  it("is monotone in N, and parts never take more than the whole", () => {
    const amount = fc.integer({ min: 1, max: 1_000_000 });
    fc.assert(
      fc.property(
        amount,
        amount,
        amount,
        fc.integer({ min: 0, max: 9999 }),
        amount,
        fc.boolean(),
        (a, b, q, w, m, once) => {
          const l = line(1, `${q}e-3`, "g", { stock: "kg", waste: decimal(w).div(100), oncePerBuild: once });
          const makes = decimal(m);
          const [low, high] = a < b ? [a, b] : [b, a];
          const first = lineNeed(l, makes, decimal(low));
          const all = lineNeed(l, makes, decimal(high));
          expect(first.lte(all)).toBe(true);
          expect(first.plus(nextNeed(l, makes, decimal(low), decimal(high - low))).eq(all)).toBe(true);
        },
      ),
    );
  });
});

describe("cost of a list", () => {
  const costs = (item: number): Rate | null => FEED_COSTS[item] ?? null;
  it("adds up FEED-12 at its usual 20", () => {
    const cost = listCost(FEED, FEED.usual, costs);
    expect(cost.lines.map((c) => c?.toFixed(4))).toEqual([
      "337.3650",
      "8.8000",
      "42.0000",
      "2.5200",
      "0.0500",
      "16.0000",
    ]);
    expect(
      [cost.materials, cost.work, cost.overhead, cost.total, cost.each].map((c) => c.toFixed(4)),
    ).toEqual(["390.7350", "16.0000", "3.0000", "409.7350", "20.4868"]);
  });
  it("says which cost it does not know", () => {
    expect(listCost(FEED, decimal(8), (i) => (i === SYRUP ? null : costs(i))).unknown).toEqual([SYRUP]);
  });
  it("figures margin of a price, none in percent for a price of zero", () => {
    expect(margin(decimal(34), decimal("20.4868")).percent?.toFixed(1)).toBe("39.7");
    expect(margin(decimal(0), decimal(1)).percent).toBeNull();
  });
});

describe("current unit cost (docs/rules.md § 5)", () => {
  const facts = (f: Partial<CostFacts>): CostFacts => ({
    onHand: decimal(0),
    value: decimal(0),
    lastIssued: null,
    standard: null,
    list: null,
    ...f,
  });
  const book = new Map<number, CostFacts>([
    [1, facts({ onHand: decimal(3), value: decimal(10), standard: rateOf(decimal(99)) })],
    [2, facts({ lastIssued: rateOf(decimal("2.5")), standard: rateOf(decimal(99)) })],
    [3, facts({ standard: rateOf(decimal("1.1")) })],
    [4, facts({ standard: rateOf(decimal(7)), list: list([line(1, "2", "pc"), line(3, "1", "pc")]) })],
    [5, facts({ list: list([line(4, "1", "pc"), line(9, "1", "pc")]) })],
    [6, facts({ list: list([line(6, "1", "pc")]) })],
  ]);
  const cost = unitCosts((item) => book.get(item));
  it.each([
    [1, "3.3333"],
    [2, "2.5"],
    [3, "1.1"],
    [4, "7.7667"],
    [5, undefined],
    [6, undefined],
  ])("of item %i", (item, figure) => {
    const found = cost(item);
    expect(found ? eachAt(found).toFixed() : undefined).toBe(figure);
  });
  it("is rounded only at the end: 309 of what 1150 are worth 28.20 cost 7.58, not 309 times a rounded one", () => {
    const kept = new Map([[1, facts({ onHand: decimal(1150), value: decimal("28.20") })]]);
    const dear = unitCosts((item) => kept.get(item));
    const { lines } = listCost(list([line(1, "309", "g")]), decimal(1), dear);
    expect(lines.map((cost) => cost?.toFixed(4))).toEqual(["7.5772"]);
  });
});
