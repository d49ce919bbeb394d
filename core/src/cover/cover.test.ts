import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Decimal, decimal, step } from "../amounts/index.ts";
import { itemNeed, type ListLine, type Progress } from "../lists/index.ts";
import { NO_STOCK, type StockFigures } from "../stock/index.ts";
import { CAN, FEED, LABEL, line, list, SHEET, SYRUP, THYMOL } from "../testing/scenario.ts";
import { besides, check, ownStrip, tiles } from "./check.ts";
import { reach } from "./reach.ts";
import { waitsFor } from "./waiting.ts";

const stock = (onHand: string, reserved = "0", expired = "0"): StockFigures => ({
  onHand: decimal(onHand),
  reserved: decimal(reserved),
  expired: decimal(expired),
});

const shelf = new Map([
  [SYRUP, stock("330", "10", "20")],
  [THYMOL, stock("0.5")],
  [CAN, stock("40")],
  [LABEL, stock("30", "6")],
  [SHEET, stock("5")],
]);

describe("check of FEED-12 (docs/rules.md § 3)", () => {
  const answer = check(FEED, decimal(40), (item) => shelf.get(item) ?? NO_STOCK);
  it("reaches 24, 100, 40, 22 and no limit, so makes 22 now, limited by labels", () => {
    expect(answer.parts.map((p) => String(p.reach))).toEqual(["24", "100", "40", "22", "no limit"]);
    expect(String(answer.makesNow)).toBe("22");
    expect(answer.limiting).toEqual([LABEL]);
  });
  it("leaves out work, reserved stock and expired lots", () => {
    expect(answer.parts.map((p) => p.free.toFixed())).toEqual(["300", "0.5", "40", "24", "5"]);
    expect(answer.parts.map((p) => p.short.toFixed())).toEqual(["199.8", "0", "0", "18", "0"]);
  });
});

describe("reach", () => {
  const one = decimal(1);
  const batch = list([]);
  it("is 0 where free is below zero, even for a part taken once", () => {
    const once = line(1, "1", "pc", { oncePerBuild: true });
    expect(String(reach([once], batch, decimal(-1)))).toBe("0");
    expect(String(reach([line(1, "1", "pc")], batch, decimal(-3)))).toBe("0");
  });
  it("is 0 where the once-per-build lines alone do not fit", () => {
    const lines = [line(1, "5", "pc", { oncePerBuild: true }), line(1, "1", "pc")];
    expect(String(reach(lines, batch, decimal(4)))).toBe("0");
    expect(String(reach(lines, batch, decimal(7)))).toBe("2");
    expect(String(reach(lines.slice(0, 1), batch, decimal(4)))).toBe("0");
  });
  it("names every part on a tie, and no number where nothing limits", () => {
    const two = list([line(1, "1", "pc"), line(2, "2", "pc")]);
    const tie = check(two, one, (item) => stock(item === 1 ? "3" : "7"));
    expect([String(tie.makesNow), tie.limiting]).toEqual(["3", [1, 2]]);
    const work = line(1, "1", "hour", { service: true, stocked: false });
    const free = check(list([work]), one, () => NO_STOCK);
    expect([free.makesNow, free.parts]).toEqual(["no limit", []]);
  });
  it("counts good units where not all that are started come out good", () => {
    const at95 = list([line(1, "1", "pc")], { yield: decimal(95) });
    // 22 pieces start 22, of which 20.9 come out good; 21 good would need 23 started
    const answer = check(at95, decimal(21), () => stock("22"));
    expect([String(answer.makesNow), answer.parts[0]?.need.toFixed()]).toEqual(["20", "23"]);
  });
  it("never stops at what is not counted, and still says how much is needed", () => {
    const rags = line(2, "3", "pc", { stocked: false });
    const answer = check(list([line(1, "1", "pc"), rags]), decimal(5), (i) => stock(i === 1 ? "4" : "0"));
    expect([String(answer.makesNow), answer.limiting]).toEqual(["4", [1]]);
    expect(answer.parts.map((p) => [p.need.toFixed(), p.short.toFixed()])).toEqual([
      ["5", "1"],
      ["15", "0"],
    ]);
  });
  it("is the largest N that fits: N does, N and one step does not", () => {
    const lineOf = fc
      .record({
        q: fc.integer({ min: 1, max: 100_000 }),
        waste: fc.integer({ min: 0, max: 5000 }),
        once: fc.boolean(),
        grams: fc.boolean(),
      })
      .map(
        ({ q, waste, once, grams }): ListLine =>
          line(1, `${q}e-3`, grams ? "g" : "kg", {
            stock: "kg",
            waste: decimal(`${waste}e-2`),
            oncePerBuild: once,
          }),
      );
    fc.assert(
      fc.property(
        fc.array(lineOf, { minLength: 1, maxLength: 3 }),
        fc.integer({ min: 1, max: 500 }),
        fc.integer({ min: 0, max: 10_000_000 }),
        fc.constantFrom(0, 3),
        (lines, makes, free, decimals) => {
          const shelfed = decimal(`${free}e-3`);
          const m = decimal(makes);
          const fits = (n: Decimal) => itemNeed(lines, m, n).lte(shelfed);
          const n = reach(lines, list([], { makes: m, decimals }), shelfed);
          if (n === "no limit") {
            expect(lines.every((l) => l.oncePerBuild) && fits(decimal(1e9))).toBe(true);
          } else {
            expect(fits(n)).toBe(true);
            expect(fits(n.plus(step(decimals)))).toBe(false);
          }
        },
      ),
      { numRuns: 300 },
    );
  });
  it("grows with stock", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e6 }), fc.integer({ min: 0, max: 1e6 }), (a, more) => {
        const at = (free: number) =>
          reach([line(1, "37", "g", { waste: decimal(3) })], list([], { makes: decimal(7) }), decimal(free));
        const [less, plenty] = [at(a), at(a + more)];
        expect(less !== "no limit" && plenty !== "no limit" && less.lte(plenty)).toBe(true);
      }),
    );
  });
});

describe("tiles", () => {
  const show = (wanted: number, there: number | "no limit", coming = 0, most = 20) => {
    const t = tiles(decimal(wanted), there === "no limit" ? there : decimal(there), decimal(coming), most);
    return `${t.each} × ${t.full} ${t.hatched} ${t.missing}`;
  };
  it.each([
    [20, 14, 0, "1 × 14 0 6"],
    [20, 15, 5, "1 × 15 5 0"],
    [20, "no limit" as const, 0, "1 × 20 0 0"],
    [20, -4, 0, "1 × 0 0 20"],
    [40, 22, 0, "2 × 11 0 9"],
    [100, 99, 0, "5 × 19 0 1"],
    [400, 306, 100, "20 × 15 5 0"],
    [3, 90, 0, "1 × 3 0 0"],
    [2100, 2100, 0, "200 × 11 0 0"],
  ])("%s wanted, %s there, %s coming", (wanted, there, coming, shown) => {
    expect(show(wanted, there, coming)).toBe(shown);
  });
  it("never shows all where one is missing, and is never more than asked for", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e7 }),
        fc.integer({ min: 0, max: 1e7 }),
        fc.integer({ min: 1, max: 40 }),
        (w, r, most) => {
          const t = tiles(decimal(w), decimal(r), decimal(0), most);
          expect(t.full + t.hatched + t.missing).toBeLessThanOrEqual(most);
          expect(t.missing === 0).toBe(r >= w);
        },
      ),
    );
  });
});

describe("strips", () => {
  it("count what is there and what comes in time, of a product's units or of the part's own need", () => {
    const d = decimal;
    expect([besides(d(4), d(10)), besides("no limit", d(3)), besides(d(4), "no limit")].map(Number)).toEqual([
      6, 0, 0,
    ]);
    const own = (need: number, now: number, day: number) => {
      const { there, coming } = ownStrip({ need: d(need), shortNow: d(now), shortOnDay: d(day) });
      return [there, coming].map(Number);
    };
    expect([own(32, 2, 2), own(160, 60, 0), own(7, 0, 0), own(10, 70, 3)]).toEqual([
      [30, 0],
      [100, 60],
      [7, 0],
      // a gap from before is short too, and fills no tile
      [0, 67],
    ]);
  });
});

describe("how far a part reaches", () => {
  const per = (quantity: string, more: object = {}) => ({ ...line(1, quantity, "pc"), ...more });
  const of = (lines: ReturnType<typeof per>[], free: string, progress: Progress | null = null) =>
    String(reach(lines, list(lines), decimal(free), progress));
  it("is no limit for a line of quantity 0, which needs nothing", () => {
    expect([of([per("0")], "5"), of([per("0")], "-5"), of([per("0"), per("2")], "5")]).toEqual([
      "no limit",
      "no limit",
      "2",
    ]);
  });
  it("counts only the rest of a build that is begun, and what lies on its bench", () => {
    const progress = (bench: string): Progress => ({
      units: decimal(10),
      done: decimal(4),
      benchOf: () => decimal(bench),
    });
    expect([of([per("1")], "3", progress("2")), of([per("1")], "0", progress("6"))]).toEqual(["5", "6"]);
    // A once-per-build line has been taken by what is done.
    expect(of([per("1", { oncePerBuild: true })], "0", progress("0"))).toBe("no limit");
  });
});

describe("builds that share a part", () => {
  const demand = (id: number, ...parts: [item: number, open: number][]) => ({
    id,
    parts: parts.map(([item, open]) => ({ item, open })),
  });
  const there = (item: number) => (item === 1 ? 10 : 3);
  it("are served in turn; the one that finds too little waits, and those after it too", () => {
    const waiting = waitsFor(
      [demand(1, [1, 6], [2, 3]), demand(2, [1, 5], [2, 1]), demand(3, [1, 1])],
      there,
    );
    expect([...waiting]).toEqual([
      [1, []],
      [2, [1, 2]],
      [3, [1]],
    ]);
  });
  it("counts two lines of one part together", () => {
    expect(waitsFor([demand(1, [2, 2], [2, 2])], there).get(1)).toEqual([2]);
  });
});
