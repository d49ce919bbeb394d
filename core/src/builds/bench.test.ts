import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal, rateOf, sum } from "../amounts/index.ts";
import { stillToTake } from "../lists/index.ts";
import {
  buildOwner,
  type Counted,
  countMovements,
  EMPTY_STOCK,
  type Movement,
  type PickableStock,
  post,
  returnToStock,
  type Spot,
  type StockState,
} from "../stock/index.ts";
import { unitOf } from "../testing/scenario.ts";
import { buildLine } from "./buildline.ts";
import { buildCost } from "./costsheet.ts";
import { type Finish, planFinish } from "./finishing.ts";
import { planHandOut } from "./handingout.ts";
import { buildState } from "./state.ts";

const BUILD = 7;

const STORE: Spot = { location: 1, bin: "A" };

const BENCH = { location: 2, bin: "", owner: buildOwner(BUILD) };

const receipt = (quantity: string, value: string, lot = "", to = STORE): Movement => ({
  item: 1,
  lot,
  serial: "",
  quantity: decimal(quantity),
  from: null,
  to,
  value: decimal(value),
  purpose: "bought",
});

const handOut = (quantity: string, lot = ""): Movement => ({
  item: 1,
  lot,
  serial: "",
  quantity: decimal(quantity),
  from: STORE,
  to: BENCH,
  value: null,
  purpose: "handed out",
});

function posted(...movements: Movement[]): StockState {
  const result = post(EMPTY_STOCK, movements);
  if (!result.ok) throw new Error("refused");
  return result.stock;
}

const takeable = (stock: StockState): PickableStock[] =>
  [...stock.balances.values()].map((b) => ({ ...b, expiry: null, received: "2026-01-01", home: false }));

const line = {
  item: 1,
  line: 1,
  quantity: decimal(1),
  unit: unitOf("pc"),
  stockUnit: unitOf("pc"),
  waste: decimal(0),
  oncePerBuild: false,
  service: false,
  stocked: true,
  used: null,
  scrapped: decimal(0),
  only: [],
  unitCost: rateOf(decimal(3)),
};

const finishOf = (change: Partial<Finish>, bench: string): Finish => ({
  build: BUILD,
  makes: decimal(1),
  overhead: decimal(0),
  extra: decimal(0),
  subcontractor: decimal(0),
  productUnit: unitOf("pc"),
  planned: decimal(3),
  done: decimal(0),
  good: decimal(1),
  rejected: decimal(0),
  closes: false,
  counts: [],
  returnToStock: false,
  day: "2026-11-23",
  lines: [{ ...line, bench: decimal(bench) }],
  ...change,
});

function planned(finish: Finish, stock: StockState) {
  const all = takeable(stock);
  const plan = planFinish(finish, {
    stock,
    ready: all.filter((b) => b.owner === undefined),
    bench: all.filter((b) => b.owner?.id === BUILD),
    sources: [{ item: 1, lot: "", serial: "", from: STORE, quantity: decimal(3) }],
    home: () => STORE,
  });
  if (!plan.ok) throw new Error("refused");
  return plan;
}

describe("handing out (docs/rules.md § 5)", () => {
  it("fixes the value then: what comes in later changes nothing of it", () => {
    const stock = posted(receipt("3", "10"), handOut("2"), receipt("9", "900"));
    const of = (build?: number) =>
      [...stock.pools.values()].find((pool) => pool.owner?.id === build)?.value.toFixed();
    expect([of(BUILD), of()]).toEqual(["6.6667", "903.3333"]);
  });
  it("takes what there is and names what is short", () => {
    const plan = planHandOut(
      [
        { line: 1, item: 1, quantity: decimal(2) },
        { line: 2, item: 1, quantity: decimal(2) },
      ],
      takeable(posted(receipt("3", "10"))),
      BENCH,
      "2026-11-23",
    );
    expect(plan.moves.map((move) => move.quantity.toFixed())).toEqual(["2", "1"]);
    expect(plan.shorts.map((s) => [s.needed.toFixed(), s.there.toFixed(), s.short.toFixed()])).toEqual([
      ["2", "1", "1"],
    ]);
  });
  it("goes back lot by lot to the bins it came from, the last handed out first", () => {
    const lying = [{ item: 1, lot: "", serial: "", ...BENCH, quantity: decimal(5) }];
    const from = (bin: string, quantity: number, lot = "") => ({
      item: 1,
      lot,
      serial: "",
      from: { location: 1, bin },
      quantity: decimal(quantity),
    });
    const sources = [from("B", 2), from("C", 9, "L"), from("A", 1)];
    const home = () => ({ location: 1, bin: "home" });
    const moves = returnToStock(lying, sources, home, () => buildLine(BUILD, 3));
    expect(moves.map((m) => `${m.quantity} ${m.to?.bin} ${m.source?.line}`)).toEqual([
      "2 B 3",
      "1 A 3",
      "2 home 3",
    ]);
  });
});

describe("finishing from the bench", () => {
  const stock = posted(receipt("3", "10"), handOut("3"));
  const one = (used: string, good: string, bench: string, more: Partial<Finish> = {}) =>
    finishOf(
      { good: decimal(good), ...more, lines: [{ ...line, bench: decimal(bench), used: decimal(used) }] },
      bench,
    );
  it("charges each finish what it used, as issues of the build's own pool; the last piece takes the rest", () => {
    const first = planned(one("1", "1", "3"), stock);
    expect(first.issues.map((m) => m.value?.toFixed(4))).toEqual(["3.3333"]);
    const after = post(stock, first.issues);
    if (!after.ok) throw new Error("refused");
    const last = planned(one("2", "2", "2", { done: decimal(1) }), after.stock);
    expect(last.cost.parts.toFixed(4)).toBe("6.6667");
  });
  it("charges 8, 7 and 6 of 8 handed out at 1.00 their 8.00, 7.00 and 6.00, however many units were planned", () => {
    const eight = posted(receipt("8", "8"), handOut("8"));
    const charge = (used: string) =>
      planned(one(used, "10", "8", { planned: decimal(20) }), eight).cost.parts.toFixed(2);
    expect(["8", "7", "6"].map(charge)).toEqual(["8.00", "7.00", "6.00"]);
  });
  it("rounds once: one of six worth 10.0005, and a difference of three at 10.0001 for six", () => {
    const six = posted(receipt("6", "10.0005"), handOut("6"));
    expect(planned(one("1", "1", "6", { planned: decimal(6) }), six).cost.parts.toFixed(4)).toBe("1.6668");
    const dear = posted(receipt("6", "10.0001"), handOut("6"));
    const plan = planned(one("6", "3", "6", { planned: decimal(6) }), dear);
    expect([plan.lines[0]?.difference.toFixed(), plan.lines[0]?.differenceCost.toFixed(4)]).toEqual([
      "3",
      "5.0001",
    ]);
  });
  it("tells what was not used at its current cost where nothing was", () => {
    const plan = planned(one("0", "2", "3"), stock);
    expect(plan.lines[0]?.differenceCost.toFixed(4)).toBe("-6.0000");
  });
  it("charges evenly whatever is used: never more than one rounding step from used × value ÷ handed out", () => {
    const finishes = fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(finishes, fc.integer({ min: 1, max: 99_999 }), (used, worth) => {
        const all = used.reduce((n, u) => n + u, 0);
        const value = decimal(`${worth}e-4`);
        let books = posted(receipt(String(all), value.toFixed()), handOut(String(all)));
        let left = all;
        const charges = used.map((u, i) => {
          const finish = one(String(u), "1", String(left), { planned: decimal(99), done: decimal(i) });
          const plan = planned(finish, books);
          const after = post(books, plan.issues);
          if (!after.ok) throw new Error("refused");
          books = after.stock;
          left -= u;
          return plan.cost.parts;
        });
        expect(sum(charges).eq(value)).toBe(true);
        // Each is within one step for itself and the roundings before it.
        for (const [i, charge] of charges.entries()) {
          const even = value.times(used[i] ?? 0).div(all);
          expect(
            charge
              .minus(even)
              .abs()
              .lte(decimal(`${i + 1}e-4`)),
          ).toBe(true);
        }
      }),
    );
  });
  it("puts left-overs back when it ends, or when it is asked to", () => {
    const one = { good: decimal(3), lines: [{ ...line, bench: decimal(3), used: decimal(2) }] };
    const ended = planned(finishOf(one, "3"), stock);
    expect([
      ended.lines[0]?.back.toFixed(),
      ended.back.map((m) => m.to?.bin),
      ended.cost.parts.toFixed(4),
    ]).toEqual(["1", ["A"], "6.6667"]);
    expect(planned(finishOf({}, "3"), stock).back).toEqual([]);
    expect(planned(finishOf({ returnToStock: true }, "3"), stock).lines[0]?.back.toFixed()).toBe("2");
    expect(planned(finishOf({ closes: true }, "3"), stock).lines[0]?.back.toFixed()).toBe("2");
  });
  it("charges the workshop's fee and the extra cost by share", () => {
    const fee = { extra: decimal(1), subcontractor: decimal(25) };
    const part = planned(finishOf(fee, "3"), stock).cost;
    expect([part.extra.toFixed(4), part.subcontractor.toFixed(4)]).toEqual(["0.3333", "8.3333"]);
    expect(planned(finishOf({ ...fee, good: decimal(3) }, "3"), stock).cost.total.toFixed(4)).toBe("36.0000");
  });
  it("takes a count into account before it looks for parts", () => {
    const empty = posted(receipt("1", "3"));
    const counts: Counted[] = [
      {
        item: 1,
        lot: "",
        serial: "",
        at: STORE,
        there: decimal(3),
        expiry: null,
        reason: "found",
        unitCost: rateOf(decimal(3)),
      },
    ];
    const plan = planned(finishOf({ good: decimal(3), counts }, "0"), empty);
    expect(plan.counts.map((m) => [m.quantity.toFixed(), m.value?.toFixed(), m.reason])).toEqual([
      ["2", "6", "found"],
    ]);
    expect(plan.cost.parts.toFixed(4)).toBe("9.0000");
    const [down] = countMovements(empty, [{ ...(counts[0] as Counted), there: decimal(0) }]);
    expect([down?.from, down?.to, down?.value]).toEqual([STORE, null, null]);
  });
});

it("reserves what the rest of a build takes and is not handed out", () => {
  const open = (done: number, bench: number, more: object = {}) =>
    stillToTake(
      { ...line, ...more },
      decimal(1),
      { done: decimal(done), benchOf: () => decimal(bench) },
      decimal(10 - done),
    ).toFixed();
  expect([open(0, 0), open(4, 2), open(4, 9), open(10, 0)]).toEqual(["10", "4", "0", "0"]);
  expect(open(0, 0, { stocked: false })).toBe("0");
  expect(open(0, 0, { quantity: decimal(0) })).toBe("0");
});

it("knows whether a build is overdue, late, ready or blocked", () => {
  const state = (change: object, waits = false) => {
    const build = {
      stage: "queued" as const,
      due: "2026-11-25",
      start: "2026-11-24",
      begun: false,
      ...change,
    };
    return Object.entries(buildState(build, waits, "2026-11-25"))
      .filter(([, on]) => on)
      .map(([name]) => name);
  };
  expect(state({})).toEqual(["late", "ready"]);
  expect(state({ begun: true })).toEqual(["ready"]);
  expect(state({ due: "2026-11-24" }, true)).toEqual(["overdue", "blocked"]);
  expect(state({ stage: "draft", due: null, start: null })).toEqual([]);
  expect(state({ stage: "finished", due: "2026-11-01" })).toEqual([]);
});

it("adds a cost sheet up over all finishes: planned, actual, difference, by part and by kind", () => {
  const record = (good: string, used: string, cost: string, differenceCost: string) => ({
    good,
    rejected: "0",
    lines: [
      { line: 1, planned: "10", used, scrapped: "1", cost, differenceCost },
      { line: 2, planned: "5", used: "6", scrapped: "0", cost: "6.0000", differenceCost: "1.0000" },
    ],
    cost: {
      parts: cost,
      work: "6.0000",
      overhead: "0.5000",
      extra: "0.0000",
      subcontractor: "0.0000",
      total: "0",
    },
  });
  const finishes = [record("4", "12", "24.0000", "4.0000"), record("6", "9", "18.0000", "-2.0000")];
  const sheet = buildCost(finishes, new Set([2]), decimal("8.00"));
  const figures = ({ planned, actual, difference }: (typeof sheet)["total"]) =>
    [planned, actual, difference].map((figure) => figure.toFixed(2)).join(" ");
  expect(
    sheet.lines.map((l) => `${l.plannedQuantity} ${l.usedQuantity} ${l.scrapped} ${figures(l)}`),
  ).toEqual(["20 21 2 40.00 42.00 2.00", "10 12 0 10.00 12.00 2.00"]);
  expect(sheet.kinds.map((k) => `${k.kind} ${figures(k)}`)).toEqual([
    "parts 40.00 42.00 2.00",
    "work 10.00 12.00 2.00",
    "overhead 1.00 1.00 0.00",
    "extra 0.00 0.00 0.00",
    "subcontractor 0.00 0.00 0.00",
  ]);
  expect([figures(sheet.total), sheet.each?.toFixed(4)]).toEqual(["51.00 55.00 4.00", "5.5000"]);
  expect([sheet.margin?.each.toFixed(2), sheet.margin?.percent.toFixed(1)]).toEqual(["2.50", "31.3"]);
  expect(buildCost(finishes, new Set(), null).margin).toBeNull();
});
