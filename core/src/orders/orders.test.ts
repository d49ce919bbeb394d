import { expect, it } from "vitest";
import { decimal as d, rateOf } from "../amounts/index.ts";
import { creditStop, lineTotal, proposedCover, setsReady } from "./orders.ts";

it("says what a line comes to, rounded once", () => {
  const total = (quantity: string, price: string, discount = "0", per = "1") =>
    lineTotal(d(quantity), rateOf(d(price), d(per)), d(discount), 2).toFixed(2);
  expect(total("2.5", "3.33")).toBe("8.33");
  expect(total("1", "3.33")).toBe("3.33");
  expect([total("3", "9.99", "12.5"), total("3", "9.99", "100")]).toEqual(["26.22", "0.00"]);
  // 3 at 0.333 less a third is 0.666 and not three times 0.22.
  expect(total("3", "0.333", "33.3333")).toBe("0.67");
  expect(total("250", "8.99", "10", "1000")).toBe("2.02");
});

it("counts whole sets, the scarcest content first; work needs nothing", () => {
  const components = [
    { per: d(6), shipped: d(0), ready: d(17) },
    { per: d(2), shipped: d(0), ready: d(30) },
  ];
  expect(setsReady(d(4), components, 0).toFixed()).toBe("2");
  expect(setsReady(d("1.5"), [{ per: d(1), shipped: d(0), ready: d("1.234") }], 3).toFixed()).toBe("1.234");
  // Of four sets one left whole, and a second without what is ready now.
  const begun = [
    { per: d(6), shipped: d(12), ready: d(12) },
    { per: d(2), shipped: d(2), ready: d(2) },
  ];
  expect(setsReady(d(4), begun, 0).toFixed()).toBe("1");
});

it("proposes what to build of a line: 40 with 12 free → 28, or all of it where the item says so", () => {
  const cover = (ready: number, dealtOut = 0, made = 0, always = false) =>
    proposedCover({ open: 40, made, shipped: 0 }, { ready, dealtOut }, always);
  expect(cover(12)).toEqual({ fromStock: 12, toBuild: 28 });
  expect(cover(12, 5)).toEqual({ fromStock: 17, toBuild: 23 });
  // Eight of the twelve were made for it.
  expect(cover(12, 0, 8)).toEqual({ fromStock: 4, toBuild: 36 });
  expect(cover(12, 5, 0, true)).toEqual({ fromStock: 0, toBuild: 40 });
});

it("stops an order of a customer on hold, or over the credit limit, to the last cent", () => {
  const stop = (used: string, asked: string, limit: string | null = "100.00", onHold = false) =>
    creditStop({ onHold, limit: limit === null ? null : d(limit) }, d(used), d(asked));
  expect([stop("60.00", "40.00"), stop("60.00", "40.01")]).toEqual([null, "over the credit limit"]);
  expect([stop("60.00", "1", null), stop("0", "0", null, true), stop("0", "0", "0")]).toEqual([
    null,
    "on hold",
    null,
  ]);
});
