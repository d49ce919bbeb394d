import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Ask, allocateBuildOutput, allocateStock, type OrderSupply, unallocated } from "./allocating.ts";

const ask = (open: number, more: Partial<Ask> = {}): Ask => ({
  open,
  shipped: 0,
  made: 0,
  coming: 0,
  planned: 0,
  ...more,
});
const supply = (usable: number, more: Partial<OrderSupply> = {}): OrderSupply => ({
  usable,
  reservedByBuilds: 0,
  incoming: 0,
  planned: 0,
  ...more,
});

describe("a build shared out among the lines it is for", () => {
  it("gives what came good first, then what can still come good", () => {
    // 10 started, 5 good, 3 rejected: 2 can still come good.
    expect(allocateBuildOutput({ good: 5, toCome: 2 }, [10])).toEqual([{ made: 5, coming: 2 }]);
    expect(allocateBuildOutput({ good: 5, toCome: 2 }, [4, 4])).toEqual([
      { made: 4, coming: 0 },
      { made: 1, coming: 2 },
    ]);
    expect(unallocated({ good: 5, toCome: 5 }, [4, 2])).toEqual({ made: 0, coming: 4 });
  });
  it("never gives more than it has, nor a line more than it was linked for", () => {
    const links = fc.array(fc.nat(50), { maxLength: 6 });
    fc.assert(
      fc.property(fc.nat(60), fc.nat(60), links, (good, toCome, linked) => {
        const shares = allocateBuildOutput({ good, toCome }, linked);
        const rest = unallocated({ good, toCome }, linked);
        const all = (of: "made" | "coming") => shares.reduce((n, share) => n + share[of], rest[of]);
        expect([all("made"), all("coming")]).toEqual([good, toCome]);
        expect(rest.made >= 0 && rest.coming >= 0).toBe(true);
        for (const [i, { made, coming }] of shares.entries())
          expect(made + coming).toBeLessThanOrEqual(linked[i] ?? 0);
      }),
    );
  });
});

describe("stock and what is on its way, dealt out to orders", () => {
  it("goes to whom it was made for, then in turn: 20 in stock, 20 and 12 asked, all 12 made for the second", () => {
    const [first, second] = allocateStock(supply(20), [ask(20), ask(12, { made: 12 })]);
    expect([first?.ready, second?.ready]).toEqual([8, 12]);
  });
  it("misses what its build rejected, and takes off what was shipped of what was made", () => {
    expect(allocateStock(supply(5), [ask(10, { made: 5, coming: 2 })])).toMatchObject([
      { ready: 5, coming: 2, missing: 3 },
    ]);
    expect(allocateStock(supply(1), [ask(6, { shipped: 4, made: 5, coming: 2 })])).toMatchObject([
      { ready: 1, coming: 2, missing: 3 },
    ]);
  });
  it("counts what is being built to stock for nobody: 15 open, 3 in stock, 10 being built", () => {
    expect(allocateStock(supply(3, { incoming: 10 }), [ask(15)])).toMatchObject([
      { ready: 3, coming: 10, dealtOut: 10, missing: 2 },
    ]);
  });
  it("leaves to builds first what they lack: nothing usable, 10 reserved by a build, 10 on order", () => {
    const found = allocateStock(supply(0, { reservedByBuilds: 10, incoming: 10 }), [ask(10)]);
    expect(found).toMatchObject([{ ready: 0, coming: 0, missing: 10 }]);
  });
  it("names drafts as planned: what they are to give is missing still", () => {
    const found = allocateStock(supply(0, { planned: 6 }), [ask(10, { planned: 4 }), ask(8)]);
    expect(found).toMatchObject([
      { planned: 10, plannedDealtOut: 6, missing: 10 },
      { planned: 0, missing: 8 },
    ]);
  });
  it("adds up for every ask, and deals out no more than there is", () => {
    const asks = fc.array(
      fc.record({
        open: fc.nat(30),
        shipped: fc.nat(5),
        made: fc.nat(30),
        coming: fc.nat(30),
        planned: fc.nat(9),
      }),
      { maxLength: 8 },
    );
    const supplies = fc.record({
      usable: fc.nat(60),
      reservedByBuilds: fc.nat(40),
      incoming: fc.nat(40),
      planned: fc.nat(20),
    });
    fc.assert(
      fc.property(supplies, asks, (there, all) => {
        const found = allocateStock(there, all);
        for (const [i, { ready, coming, missing, planned }] of found.entries()) {
          expect(ready + coming + missing).toBe(all[i]?.open);
          expect(Math.min(ready, coming, missing, planned)).toBeGreaterThanOrEqual(0);
          expect(planned).toBeLessThanOrEqual(missing);
        }
        const sum = (of: "ready" | "dealtOut" | "plannedDealtOut") =>
          found.reduce((n, one) => n + one[of], 0);
        expect(sum("ready")).toBeLessThanOrEqual(Math.max(0, there.usable - there.reservedByBuilds));
        expect(sum("dealtOut")).toBeLessThanOrEqual(there.incoming);
        expect(sum("plannedDealtOut")).toBeLessThanOrEqual(there.planned);
      }),
    );
  });
});
