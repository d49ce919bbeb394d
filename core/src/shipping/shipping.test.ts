import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Decimal, decimal, ONE, rateOf, sum, ZERO } from "../amounts/index.ts";
import { lineTotal } from "../orders/index.ts";
import { margin } from "../prices/index.ts";
import type { PickableStock } from "../stock/index.ts";
import { yard } from "../testing/yard.ts";
import { expiredOf, pickLeaving, shipmentMovements } from "./leaving.ts";
import { componentsLeft, revenueSoFar, type SoldLine, shareRevenue, wholeLeft } from "./revenue.ts";

const d = decimal;
const money = (amounts: readonly Decimal[]) => amounts.map((amount) => amount.toFixed(2));

/** The gloves among the contents of KIT-YARD. */
const GLOVES = 3;
const left = (of: Record<number, string>, units = "0") => ({
  of: (item: number) => d(of[item] ?? "0"),
  units: d(units),
});
const sets = (n: string) => left({ 1: n, 2: n, 3: n, 4: n, 5: n });

describe("revenue and margin of what left (docs/rules.md § 12)", () => {
  it("counts a line's total so far less what was counted before: 2.5 L at 3.33, 1 L first", () => {
    const syrup: SoldLine = {
      quantity: d("2.5"),
      price: rateOf(d("3.33")),
      discount: ZERO,
      decimals: 3,
      components: [{ item: 1, quantity: ONE, stocked: true, price: null, cost: null }],
    };
    const first = revenueSoFar(syrup, left({ 1: "1" }), 2);
    const all = revenueSoFar(syrup, left({ 1: "2.5" }), 2);
    expect(money([first, all.minus(first), all])).toEqual(["3.33", "5.00", "8.33"]);
  });

  it("shares a set's revenue by price shares: KIT-YARD at 239.00 with a margin of 24.40", () => {
    const costs = ["148.0000", "36.0000", "8.3000", "17.2000", "5.1000"].map(d);
    const revenue = revenueSoFar(yard(), sets("1"), 2);
    const shares = shareRevenue(
      revenue,
      yard().components,
      costs.map(() => ONE),
      2,
    );
    expect(money(shares.map((share, i) => share.minus(costs[i] ?? ZERO)))).toEqual([
      "-4.95",
      "14.59",
      "4.35",
      "7.14",
      "3.27",
    ]);
    const { money: rest, percent } = margin(revenue, sum(costs));
    expect([sum(costs).toFixed(4), rest.toFixed(2), percent?.toFixed(1)]).toEqual([
      "214.6000",
      "24.40",
      "10.2",
    ]);
  });

  it("counts single pieces at their price share, the last takes the rest: a set without its gloves 226.35", () => {
    const without = left({ 1: "1", 2: "1", 4: "1", 5: "1" });
    expect(revenueSoFar(yard(), without, 2).toFixed(2)).toBe("226.35");
    expect(
      revenueSoFar(yard(), sets("1"), 2)
        .minus(revenueSoFar(yard(), without, 2))
        .toFixed(2),
    ).toBe("12.65");
    // two of three sets whole, the third without gloves
    const two = left({ 1: "3", 2: "3", [GLOVES]: "2", 4: "3", 5: "3" });
    expect(wholeLeft(yard("3"), two).toFixed()).toBe("2");
    expect(revenueSoFar(yard("3"), two, 2).toFixed(2)).toBe("704.35");
  });

  it("shares single pieces after the discount", () => {
    const reduced = { ...yard(), discount: d("10") };
    // 215.10 for the set; the gloves' share 11.38
    expect(revenueSoFar(reduced, left({ [GLOVES]: "1" }), 2).toFixed(2)).toBe("11.38");
  });

  it("counts what takes nothing from stock by its own units, and contents that are not stocked with whole sets", () => {
    const work: SoldLine = {
      quantity: d("3"),
      price: rateOf(d("40.00")),
      discount: ZERO,
      decimals: 2,
      components: [{ item: 9, quantity: ONE, stocked: false, price: null, cost: rateOf(d("32")) }],
    };
    expect(revenueSoFar(work, left({}, "1.5"), 2).toFixed(2)).toBe("60.00");
    const [hive, ...rest] = yard("2").components;
    if (!hive) throw new Error("KIT-YARD has a hive");
    const mixed = { ...yard("2"), components: [hive, ...rest.map((one) => ({ ...one, stocked: false }))] };
    expect(componentsLeft(mixed, left({ 1: "1" })).map((n) => n.toFixed())).toEqual([
      "1",
      "1",
      "1",
      "1",
      "1",
    ]);
  });

  it("follows a price that was lowered after a part left, also below nothing", () => {
    const shares = shareRevenue(
      d("-1.00"),
      yard().components,
      yard().components.map(() => ONE),
      2,
    );
    expect(sum(shares).toFixed(2)).toBe("-1.00");
  });

  it("adds up to the line's total over any part shipments, and its components to each shipment", () => {
    const line = fc.record({
      quantity: fc.integer({ min: 1, max: 6 }),
      price: fc.integer({ min: 0, max: 99_999 }),
      discount: fc.integer({ min: 0, max: 100 }),
      decimals: fc.constantFrom(0, 2, 3),
      components: fc.array(
        fc.record({
          per: fc.integer({ min: 1, max: 4 }),
          price: fc.option(fc.integer({ min: 0, max: 9_999 })),
          cost: fc.option(fc.integer({ min: 0, max: 9_999 })),
          stocked: fc.boolean(),
        }),
        { minLength: 1, maxLength: 4 },
      ),
    });
    fc.assert(
      fc.property(line, fc.array(fc.nat(9), { minLength: 1, maxLength: 12 }), (typed, steps) => {
        const hundredths = (n: number) => d(n).div(10 ** typed.decimals);
        const sold: SoldLine = {
          quantity: d(typed.quantity),
          price: rateOf(hundredths(typed.price)),
          discount: d(typed.discount),
          decimals: 0,
          components: typed.components.map(({ per, price, cost, stocked }, item) => ({
            item,
            stocked,
            quantity: d(per),
            price: price === null ? null : rateOf(hundredths(price)),
            cost: cost === null ? null : rateOf(hundredths(cost)),
          })),
        };
        const shipped = sold.components.map(() => 0);
        let units = 0;
        let counted = ZERO;
        const now = () => ({ of: (item: number) => d(shipped[item] ?? 0), units: d(units) });
        const ship = () => {
          const revenue = revenueSoFar(sold, now(), typed.decimals).minus(counted);
          counted = counted.plus(revenue);
          return revenue;
        };
        let before = componentsLeft(sold, now());
        for (const [at, step] of [...steps, "all" as const].entries()) {
          for (const [i, { per }] of typed.components.entries()) {
            const most = per * typed.quantity;
            shipped[i] = step === "all" ? most : Math.min(most, (shipped[i] ?? 0) + ((step + i + at) % 3));
          }
          units = step === "all" ? typed.quantity : Math.min(typed.quantity, units + (step % 2));
          const revenue = ship();
          const after = componentsLeft(sold, now());
          const leaving = after.map((n, i) => n.minus(before[i] ?? ZERO));
          before = after;
          if (leaving.every((n) => n.eq(0))) continue;
          expect(sum(shareRevenue(revenue, sold.components, leaving, typed.decimals)).eq(revenue)).toBe(true);
        }
        expect(counted.eq(lineTotal(sold.quantity, sold.price, sold.discount, typed.decimals))).toBe(true);
      }),
    );
  });
});

describe("what leaves (docs/rules.md § 8)", () => {
  const lot = (code: string, quantity: string, expiry: string | null = null): PickableStock => ({
    item: 1,
    lot: code,
    serial: "",
    location: 1,
    bin: code,
    quantity: d(quantity),
    expiry,
    received: "2026-01-01",
    home: false,
  });
  const ask = (line: number, quantity: string, only: string[] = []) => ({
    line,
    item: 1,
    quantity: d(quantity),
    only,
  });
  const ready = [lot("L-1", "5", "2026-11-01"), lot("L-2", "5", "2026-12-01"), lot("L-3", "5")];

  it("takes the earliest expiry first, never what has expired, and says what is short", () => {
    const [picked] = pickLeaving([ask(1, "12")], ready, "2026-11-23");
    expect(picked?.taken.map(({ lot: code, quantity }) => `${code} ${quantity}`)).toEqual(["L-2 5", "L-3 5"]);
    expect(picked?.short.toFixed()).toBe("2");
    expect(expiredOf(ready, ask(1, "12"), "2026-11-23").toFixed()).toBe("5");
    expect(expiredOf(ready, ask(1, "12", ["L-2"]), "2026-11-23").toFixed()).toBe("0");
  });

  it("leaves a lot that a later line chose to that line", () => {
    const picked = pickLeaving([ask(1, "5"), ask(2, "5", ["L-2"])], ready, "2026-11-23");
    expect(picked.map(({ taken }) => taken.map((pick) => pick.lot).join())).toEqual(["L-3", "L-2"]);
    expect(shipmentMovements(7, picked).map((m) => m.source)).toEqual([
      { document: "order", id: 7, line: 1 },
      { document: "order", id: 7, line: 2 },
    ]);
  });
});
