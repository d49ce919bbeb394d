import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  addDays,
  type Decimal,
  dayIn,
  daysBetween,
  decimal,
  isDay,
  max,
  numberMarks,
  parseDay,
  parseNumber,
  rateOf,
  sum,
  ZERO,
} from "./amounts/index.ts";
import { type Finish, planFinish } from "./builds/index.ts";
import { waitsFor } from "./cover/index.ts";
import { lineNeed, listCost, nextNeed, unitCosts } from "./lists/index.ts";
import { EMPTY_STOCK, type Movement, type PickableStock, post, quantityOf, take } from "./stock/index.ts";
import { FEED, FEED_COSTS, line, list, unitOf } from "./testing/scenario.ts";

/** A line of which nobody says more than the plan. */
const UNTOLD = { scrapped: ZERO, bench: ZERO, only: [] };

const day = fc.integer({ min: 0, max: 40_000 }).map((n) => addDays("1990-01-01", n));

const spot = { location: 1, bin: "" };

describe("days", () => {
  it("count back what was added, and every one of them exists", () => {
    fc.assert(
      fc.property(day, fc.integer({ min: -9999, max: 9999 }), (from, n) => {
        const to = addDays(from, n);
        expect([isDay(to), daysBetween(from, to)]).toEqual([true, n]);
        expect(parseDay(n < 0 ? String(n) : `+${n}`, from)).toBe(to);
      }),
    );
  });
  it("end with the last one that has four digits for its year", () => {
    expect(addDays("9999-12-30", 1)).toBe("9999-12-31");
    expect(addDays("9999-12-31", 400)).toBe("9999-12-31");
  });
  it("are read as they are written, in full or by the next weekday, which is within a week", () => {
    fc.assert(
      fc.property(day, fc.constantFrom("mon", "tue", "wed", "thu", "fri", "sat", "sun"), (today, weekday) => {
        expect(parseDay(today, "2026-11-23")).toBe(today);
        const next = parseDay(weekday, today) ?? "";
        expect(daysBetween(today, next)).toBeGreaterThan(0);
        expect(daysBetween(today, next)).toBeLessThanOrEqual(7);
      }),
    );
  });
  it("in any time zone differ by one at most from those of Greenwich", () => {
    const zone = fc.constantFrom(
      "Europe/Vienna",
      "America/Los_Angeles",
      "Pacific/Kiritimati",
      "Asia/Kolkata",
    );
    fc.assert(
      fc.property(
        zone,
        fc.date({ min: new Date("2000-01-01"), max: new Date("2080-01-01"), noInvalidDate: true }),
        (z, at) => {
          const moment = at.toISOString();
          expect(Math.abs(daysBetween(moment.slice(0, 10), dayIn(z, moment)))).toBeLessThanOrEqual(1);
        },
      ),
    );
  });
});

describe("numbers", () => {
  it("are read back the way a language writes them, to the last digit", () => {
    const locale = fc.constantFrom("en-GB", "de-DE", "fr-FR", "de-CH", "pl-PL", "en-IN", "sv-SE");
    const amount = fc.tuple(
      fc.bigInt({ min: -(10n ** 14n), max: 10n ** 14n }),
      fc.integer({ min: 0, max: 6 }),
    );
    fc.assert(
      fc.property(locale, amount, fc.boolean(), (l, [n, decimals], useGrouping) => {
        const value = decimal(`${n}e-${decimals}`).toFixed();
        const format = new Intl.NumberFormat(l, { maximumFractionDigits: 6, useGrouping });
        // Indian grouping by two is not read back grouped: it is refused, never read as something else.
        const read = parseNumber(format.format(value as Intl.StringNumericLiteral), numberMarks(l));
        if (read === null) expect([l, useGrouping]).toEqual(["en-IN", true]);
        else expect(decimal(read).eq(value)).toBe(true);
      }),
    );
  });
});

describe("needs and costs", () => {
  const worked = fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 8 });
  it("of a build finished in any parts add up to those of the whole", () => {
    fc.assert(
      fc.property(worked, (parts) => {
        const whole = parts.reduce((a, b) => a + b, 0);
        for (const l of FEED.lines) {
          let done = 0;
          let drawn = ZERO;
          for (const part of parts) {
            drawn = drawn.plus(nextNeed(l, FEED.makes, decimal(done), decimal(part)));
            done += part;
          }
          expect(drawn.eq(lineNeed(l, FEED.makes, decimal(whole)))).toBe(true);
        }
      }),
    );
  });
  it("of a list are the sum of what they are made of, and grow with a part's cost", () => {
    const cents = fc.integer({ min: 0, max: 100_000 });
    fc.assert(
      fc.property(cents, cents, fc.integer({ min: 1, max: 500 }), (a, more, n) => {
        const at = (syrup: number) =>
          listCost(FEED, decimal(n), (i) =>
            i === 1 ? rateOf(decimal(`${syrup}e-4`)) : (FEED_COSTS[i] ?? null),
          );
        const [cheap, dear] = [at(a), at(a + more)];
        expect(cheap.total.lte(dear.total)).toBe(true);
        const lines = sum(cheap.lines.map((cost) => cost ?? ZERO));
        expect(lines.plus(cheap.overhead).eq(cheap.total)).toBe(true);
      }),
    );
  });
  it("of items made of one another end, whatever circle there is", () => {
    const parts = fc.array(fc.array(fc.nat(9), { maxLength: 3 }), { minLength: 10, maxLength: 10 });
    fc.assert(
      fc.property(parts, (lists) => {
        const cost = unitCosts((item) => ({
          onHand: ZERO,
          value: ZERO,
          lastIssued: null,
          standard: rateOf(decimal(1)),
          list: list((lists[item] ?? []).map((p) => line(p, "1", "pc"))),
        }));
        for (let item = 0; item < 10; item++) expect(cost(item)?.amount.gte(0)).toBe(true);
      }),
    );
  });
});

describe("taking and giving out", () => {
  const lots = fc.array(
    fc.record({
      lot: fc.constantFrom("A", "B", "C"),
      bin: fc.constantFrom("1", "2"),
      quantity: fc.integer({ min: 0, max: 50 }),
      expired: fc.boolean(),
    }),
    { maxLength: 6 },
  );
  it("takes just what is wanted, or all there is, never more than a bin holds, never what has expired", () => {
    fc.assert(
      fc.property(lots, fc.integer({ min: 1, max: 150 }), (shelf, wanted) => {
        const ready = (): PickableStock[] =>
          shelf.map((s, i) => ({
            item: 1,
            lot: s.lot + i,
            serial: "",
            location: 1,
            bin: s.bin,
            quantity: decimal(s.quantity),
            expiry: s.expired ? "2026-01-01" : null,
            received: "2025-01-01",
            home: false,
          }));
        const usable = shelf.filter((s) => !s.expired).reduce((n, s) => n + s.quantity, 0);
        const taken = take(ready(), { item: 1, quantity: decimal(wanted), only: [] }, "2026-11-23");
        expect(quantityOf(taken).toNumber()).toBe(Math.min(usable, wanted));
        for (const t of taken) {
          const from = ready().find((r) => r.lot === t.lot);
          expect(from?.expiry).toBeNull();
          expect(from?.quantity.gte(t.quantity)).toBe(true);
        }
      }),
    );
  });
  it("lets exactly those builds wait that come after the stock is gone", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 20 }), { maxLength: 8 }),
        fc.integer({ min: 0, max: 80 }),
        (opens, stock) => {
          const demands = opens.map((open, id) => ({ id, parts: [{ item: 1, open }] }));
          const waiting = waitsFor(demands, () => stock);
          let claimed = 0;
          for (const [id, open] of opens.entries()) {
            expect((waiting.get(id) ?? []).length > 0).toBe(Math.max(0, stock - claimed) < open);
            claimed += open;
          }
        },
      ),
    );
  });
  it("names the largest quantity that can be finished: it can, and one more cannot", () => {
    const amounts = fc.tuple(...[400, 1, 40, 60, 3].map((most) => fc.integer({ min: 0, max: most })));
    fc.assert(
      fc.property(
        amounts,
        fc.integer({ min: 0, max: 10 }),
        fc.integer({ min: 1, max: 40 }),
        (shelf, done, open) => {
          const receipts: Movement[] = shelf.flatMap((quantity, i) =>
            quantity === 0
              ? []
              : [
                  {
                    item: i + 1,
                    lot: "",
                    serial: "",
                    quantity: decimal(quantity),
                    purpose: "opening",
                    from: null,
                    to: spot,
                    value: ZERO,
                  },
                ],
          );
          const posted = post(EMPTY_STOCK, receipts);
          if (!posted.ok) throw new Error("a receipt is never refused");
          const ready = [...posted.stock.balances.values()].map((b) => ({
            ...b,
            expiry: null,
            received: "",
            home: false,
          }));
          const plan = (good: Decimal) => {
            const finish: Finish = {
              build: 1,
              makes: FEED.makes,
              overhead: ZERO,
              extra: ZERO,
              subcontractor: ZERO,
              closes: false,
              returnToStock: false,
              counts: [],
              productUnit: unitOf("pc"),
              planned: decimal(done + open),
              done: decimal(done),
              good,
              rejected: ZERO,
              day: "2026-11-23",
              lines: FEED.lines.map((l, i) => ({
                ...l,
                line: i + 1,
                used: null,
                unitCost: rateOf(ZERO),
                ...UNTOLD,
              })),
            };
            return planFinish(finish, {
              stock: posted.stock,
              ready,
              bench: [],
              sources: [],
              home: () => spot,
            });
          };
          const all = plan(decimal(open));
          if (all.ok) return;
          expect(all.largest.lt(open)).toBe(true);
          if (all.largest.gt(0)) expect(plan(all.largest).ok).toBe(true);
          expect(plan(max(all.largest, ZERO).plus(1)).ok).toBe(false);
        },
      ),
    );
  });
});
