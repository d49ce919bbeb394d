import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Decimal, decimal, rateOf, sum, valueAt } from "../amounts/index.ts";
import { EMPTY_STOCK, type Movement, type PickableStock, post, type StockState } from "../stock/index.ts";
import { CAN, FEED, FEED_COSTS, LABEL, SHEET, SYRUP, THYMOL, unitOf, WORK } from "../testing/scenario.ts";
import { type Finish, type FinishBooks, planFinish } from "./finishing.ts";
import { mayBuild } from "./stages.ts";

const spot = { location: 1, bin: "" };

const PRODUCT = 12;

const BUILD = 7;

function stocked(quantities: Record<number, string>): StockState {
  const receipts: Movement[] = Object.entries(quantities).map(([item, quantity]) => ({
    item: Number(item),
    lot: "",
    serial: "",
    quantity: decimal(quantity),
    purpose: "opening",
    from: null,
    to: spot,
    value: valueAt(decimal(quantity), FEED_COSTS[Number(item)] ?? rateOf(decimal(0))),
  }));
  const result = post(EMPTY_STOCK, receipts);
  if (!result.ok) throw new Error("refused");
  return result.stock;
}

function ready(stock: StockState): PickableStock[] {
  return [...stock.balances.values()].map((b) => ({
    ...b,
    expiry: null,
    received: "2026-01-01",
    home: false,
  }));
}

const books = (stock: StockState): FinishBooks => ({
  stock,
  ready: ready(stock).filter((b) => b.owner === undefined),
  bench: ready(stock).filter((b) => b.owner?.id === BUILD),
  sources: [],
  home: () => spot,
});

const full = { [SYRUP]: "300", [THYMOL]: "0.5", [CAN]: "40", [LABEL]: "24", [SHEET]: "5" };

function finish(change: Partial<Finish> & { use?: Record<number, string> } = {}): Finish {
  const { use = {}, ...rest } = change;
  return {
    build: BUILD,
    makes: FEED.makes,
    overhead: FEED.overhead,
    extra: decimal(0),
    subcontractor: decimal(0),
    counts: [],
    returnToStock: false,
    closes: false,
    productUnit: unitOf("pc"),
    planned: decimal(20),
    done: decimal(0),
    good: decimal(19),
    rejected: decimal(1),
    day: "2026-11-23",
    lines: FEED.lines.map((l, i) => ({
      ...l,
      line: i + 1,
      used: use[l.item] === undefined ? null : decimal(use[l.item] ?? ""),
      scrapped: decimal(0),
      bench: decimal(0),
      only: [],
      unitCost: FEED_COSTS[l.item] ?? null,
    })),
    ...rest,
  };
}

function planned(f: Finish, stock: StockState) {
  const plan = planFinish(f, books(stock));
  if (!plan.ok) throw new Error("refused");
  return plan;
}

describe("finishing FEED-12 (docs/rules.md § 5)", () => {
  const plan = planned(finish({ use: { [SYRUP]: "251.400" } }), stocked(full));
  it("costs 411.76 for 20 worked and 19 good, shown as 21.6716 each", () => {
    const byItem = Object.fromEntries(plan.lines.map((l) => [l.item, l.cost.toFixed(2)]));
    expect(byItem).toEqual({
      [SYRUP]: "339.39",
      [THYMOL]: "8.80",
      [CAN]: "42.00",
      [LABEL]: "2.52",
      [SHEET]: "0.05",
      [WORK]: "16.00",
    });
    expect(plan.cost.overhead.toFixed(2)).toBe("3.00");
    expect(plan.cost.total.toFixed(4)).toBe("411.7600");
    expect(plan.cost.each?.toFixed(4)).toBe("21.6716");
  });
  it("shows the difference on syrup: +1.500 L, +2.025", () => {
    const syrup = plan.lines[0];
    expect([syrup?.difference.toFixed(3), syrup?.differenceCost.toFixed(3)]).toEqual(["1.500", "2.025"]);
  });
  it("carries no unit cost where none is good", () => {
    expect(planned(finish({ good: decimal(0), rejected: decimal(20) }), stocked(full)).cost.each).toBeNull();
  });
  it("takes 10 labels for the second half after 11 for the first", () => {
    const labels = (done: string) =>
      planned(
        finish({ done: decimal(done), good: decimal(10), rejected: decimal(0) }),
        stocked(full),
      ).lines[3]?.used.toFixed();
    expect([labels("0"), labels("10")]).toEqual(["11", "10"]);
  });
});

describe("finishing with too little on the books", () => {
  it("names each short part and the largest quantity that could be finished", () => {
    const stock = stocked({ ...full, [LABEL]: "13", [CAN]: "19" });
    const plan = planFinish(finish(), books(stock));
    if (plan.ok) throw new Error("should be refused");
    expect(
      plan.shorts.map((s) => [s.item, s.needed.toFixed(), s.there.toFixed(), s.short.toFixed()]),
    ).toEqual([
      [CAN, "20", "19", "1"],
      [LABEL, "21", "13", "8"],
    ]);
    expect(plan.largest.toFixed()).toBe("12");
  });
  it("never tells more than is still to be made, where only more was used than there is", () => {
    const stock = stocked(full);
    const rest = finish({
      done: decimal(10),
      good: decimal(10),
      rejected: decimal(0),
      use: { [SYRUP]: "301" },
    });
    const plan = planFinish(rest, books(stock));
    expect(plan.ok ? null : [plan.largest.toFixed(), plan.shorts.map((s) => s.short.toFixed())]).toEqual([
      "10",
      ["1"],
    ]);
  });
  it("counts no expired lot", () => {
    const stock = stocked(full);
    const lots = ready(stock).map((b) => (b.item === SYRUP ? { ...b, expiry: "2026-11-22" } : b));
    const plan = planFinish(finish(), { ...books(stock), ready: lots });
    expect(plan.ok ? null : plan.shorts.map((s) => s.there.toFixed())).toEqual(["0"]);
  });
});

describe("any sequence of builds", () => {
  it("moves all value of the parts, the work and the overhead into the product, and never goes below zero", () => {
    const build = fc.record({
      good: fc.integer({ min: 0, max: 9 }),
      rejected: fc.integer({ min: 0, max: 3 }),
      extra: fc.integer({ min: 0, max: 900 }),
    });
    const amounts = fc.record({
      [SYRUP]: fc.integer({ min: 1, max: 400 }),
      [THYMOL]: fc.constant(1),
      [CAN]: fc.integer({ min: 1, max: 40 }),
      [LABEL]: fc.integer({ min: 1, max: 60 }),
      [SHEET]: fc.integer({ min: 1, max: 5 }),
    });
    fc.assert(
      fc.property(amounts, fc.array(build, { maxLength: 8 }), (start, builds) => {
        let stock = stocked(Object.fromEntries(Object.entries(start).map(([k, v]) => [k, String(v)])));
        const value = (s: StockState) => sum([...s.pools.values()].map((p) => p.value));
        let added = decimal(0);
        let lost = decimal(0);
        const first = value(stock);
        for (const b of builds) {
          const worked = b.good + b.rejected;
          if (worked === 0) continue;
          const syrup = decimal("12.495")
            .times(worked)
            .plus(decimal(`${b.extra}e-3`));
          const f = finish({
            good: decimal(b.good),
            rejected: decimal(b.rejected),
            use: { [SYRUP]: syrup.toFixed() },
          });
          const plan = planFinish(f, books(stock));
          if (!plan.ok) continue;
          const receipt: Movement[] =
            b.good > 0
              ? [
                  {
                    item: PRODUCT,
                    lot: "",
                    serial: "",
                    quantity: f.good,
                    purpose: "built",
                    from: null,
                    to: spot,
                    value: plan.cost.total,
                  },
                ]
              : [];
          const result = post(stock, [...plan.issues, ...receipt]);
          if (!result.ok) throw new Error("planned what the ledger refuses");
          const issued: Decimal = sum(result.movements.filter((m) => m.to === null).map((m) => m.value));
          expect(issued.eq(plan.cost.parts)).toBe(true);
          added = added.plus(plan.cost.work).plus(plan.cost.overhead);
          if (b.good === 0) lost = lost.plus(plan.cost.total);
          stock = result.stock;
        }
        expect(value(stock).eq(first.plus(added).minus(lost))).toBe(true);
        expect([...stock.balances.values()].every((b) => b.quantity.gte(0))).toBe(true);
      }),
    );
  });
});

it("knows what may be done at each stage", () => {
  expect([
    mayBuild("queue", "draft"),
    mayBuild("queue", "queued"),
    mayBuild("finish", "draft"),
    mayBuild("cancel", "finished"),
  ]).toEqual([true, false, false, false]);
});
