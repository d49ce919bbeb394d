import fc from "fast-check";
import { beforeAll, describe, expect, it } from "vitest";
import { type Decimal, decimal, step, ZERO } from "../amounts/index.ts";
import type { PartsList } from "../lists/index.ts";
import { FEED, line, list } from "../testing/scenario.ts";
import { solver } from "../testing/solver.ts";
import {
  bestMix,
  greedyMix,
  type Mix,
  type MixProblem,
  mixFits,
  mixProgramme,
  mixValue,
  priorityValues,
  type Solver,
} from "./mix.ts";

let solve: Solver;

beforeAll(async () => {
  solve = await solver();
});

const each = (item: number, quantity: string, more = {}) => line(item, quantity, "pc", more);

const product = (item: number, wanted: string, value: string, parts: PartsList) => ({
  item,
  list: parts,
  wanted: decimal(wanted),
  value: decimal(value),
});

const problem = (products: MixProblem["products"], free: Record<number, string>): MixProblem => ({
  products,
  free: (item) => decimal(free[item] ?? "0"),
});

const show = (mix: Mix) => mix.map((n) => n.toFixed());

describe("the best mix", () => {
  it("beats taking the dearest first where two cheaper ones bring more together", async () => {
    // Ten boards. A hive of 6 brings 10, a stand of 5 brings 7: one hive leaves 4 boards and 10; two stands bring 14.
    const asked = problem(
      [product(11, "5", "10", list([each(1, "6")])), product(12, "5", "7", list([each(1, "5")]))],
      { 1: "10" },
    );
    expect(show(greedyMix(asked))).toEqual(["1", "0"]);
    const best = await bestMix(asked, solve);
    expect([show(best.mix), best.value.toFixed()]).toEqual([["0", "2"], "14"]);
    // An eleventh board makes a hive and a stand: 17.
    expect(best.binding.map((b) => [b.item, b.brings.toFixed()])).toEqual([[1, "3"]]);
  });
  it("figures batches, waste, rounding up and once-per-build lines exactly: all of the free stock of FEED-12 makes 22", async () => {
    const asked = problem([product(99, "40", "13.51", FEED)], {
      1: "300",
      2: "0.5",
      3: "40",
      4: "24",
      5: "5",
    });
    const best = await bestMix(asked, solve);
    expect(show(best.mix)).toEqual(["22"]);
    // Labels bind: a 25th makes 23 (24.15 would be 25).
    expect(best.binding.map((b) => [b.item, b.brings.toFixed()])).toEqual([[4, "13.51"]]);
  });
  it("builds nothing that brings nothing, and nothing of a part that is overdrawn", async () => {
    const asked = problem(
      [product(11, "5", "-2", list([each(1, "1")])), product(12, "5", "3", list([each(2, "1")]))],
      { 1: "9", 2: "-4" },
    );
    const best = await bestMix(asked, solve);
    expect([show(best.mix), best.binding.map((b) => b.item)]).toEqual([["0", "0"], [2]]);
  });
  it("tells how far it is, and falls back on the order by value where the solver finds nothing", async () => {
    const told: string[] = [];
    const asked = problem([product(11, "5", "10", list([each(1, "6")]))], { 1: "20" });
    const best = await bestMix(
      asked,
      async () => null,
      (done, of) => told.push(`${done}/${of}`),
    );
    expect([show(best.mix), told]).toEqual([["3"], ["0/1", "1/2", "2/2"]]);
  });

  const listOf = fc
    .record({
      parts: fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 3 }), fc.integer({ min: 1, max: 9 })), {
        selector: ([part]) => part,
        minLength: 1,
      }),
      waste: fc.constantFrom("0", "7"),
      makes: fc.integer({ min: 1, max: 3 }),
      once: fc.boolean(),
      yield: fc.constantFrom(100, 90),
    })
    .map((t) =>
      list(
        t.parts.map(([part, q], i) =>
          each(part, String(q), { waste: decimal(t.waste), oncePerBuild: t.once && i === 1 }),
        ),
        { makes: decimal(t.makes), yield: decimal(t.yield) },
      ),
    );
  const productsOf = (most: number, count: number) =>
    fc.array(
      fc.record({
        list: listOf,
        wanted: fc.integer({ min: 1, max: most }),
        value: fc.integer({ min: 1, max: 30 }),
      }),
      { minLength: 1, maxLength: count },
    );
  const freeOf = (most: number) => fc.tuple(...[1, 2, 3].map(() => fc.integer({ min: 0, max: most })));
  const asProblem = (all: { list: PartsList; wanted: number; value: number }[], free: number[]) =>
    problem(
      all.map((p, i) => product(10 + i, String(p.wanted), String(p.value), p.list)),
      Object.fromEntries(free.map((n, i) => [i + 1, String(n)])),
    );

  it("is the best there is: every mix is tried by brute force", async () => {
    await fc.assert(
      fc.asyncProperty(productsOf(4, 3), freeOf(25), async (all, free) => {
        const asked = asProblem(all, free);
        const { value, mix } = await bestMix(asked, solve);
        expect(mixFits(asked, mix)).toBe(true);
        expect(value.toFixed()).toBe(bruteForce(asked).toFixed());
      }),
      { numRuns: 60 },
    );
  });
  it("is never worse than by hand on large cases, and always fits", async () => {
    await fc.assert(
      fc.asyncProperty(productsOf(400, 12), freeOf(3000), async (all, free) => {
        const asked = asProblem(all, free);
        const found = await solve(mixProgramme(asked));
        expect(found).not.toBeNull();
        const { value, mix } = await bestMix(asked, async () => found);
        expect(mixFits(asked, mix)).toBe(true);
        expect(value.gte(mixValue(asked, greedyMix(asked)))).toBe(true);
      }),
      { numRuns: 15 },
    );
  });
});

/** The most that any mix brings, by trying all of them. */
function bruteForce(asked: MixProblem, mix: Mix = []): Decimal {
  const next = asked.products[mix.length];
  if (!next) return mixFits(asked, mix) ? mixValue(asked, mix) : ZERO;
  let best = ZERO;
  for (let n = ZERO; n.lte(next.wanted); n = n.plus(step(0))) {
    const value = bruteForce(asked, [...mix, n]);
    if (value.gt(best)) best = value;
  }
  return best;
}

describe("values by priority", () => {
  it("let one of a priority count more than all of those after it", () => {
    const values = priorityValues([
      { priority: 2, quantity: decimal(10) },
      { priority: 1, quantity: decimal(3) },
      { priority: 3, quantity: decimal(100) },
      { priority: 2, quantity: decimal(5) },
    ]);
    // 100 of the last count 100, so one of the second counts 101; 15 of these count 1515, so one of the first counts 1616
    expect(show(values)).toEqual(["101", "1616", "1", "101"]);
  });
});
