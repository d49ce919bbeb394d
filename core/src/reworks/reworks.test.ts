import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal, sum, ZERO } from "../amounts/index.ts";
import { doesItPay, sharePriceByCost } from "./paying.ts";
import { reworkState } from "./stages.ts";
import { valuesOut } from "./values.ts";

const unit = (valueIn: string, quantity = "1") => ({
  valueIn: decimal(valueIn),
  quantity: decimal(quantity),
});
const cost = (value: string, of: number | null = null) => ({ unit: of, value: decimal(value) });
const texts = (values: readonly ({ toFixed: () => string } | null)[]) =>
  values.map((value) => value?.toFixed() ?? null);

describe("what units carry when they come out", () => {
  it("is what they carried, what was for one alone, and their share of what was for all", () => {
    // Two extractors at 240.00: a belt of 14.20 for the first, and 50.00 of work for both.
    expect(texts(valuesOut([unit("240"), unit("240")], [cost("14.2", 0), cost("50")]))).toEqual([
      "279.2",
      "265",
    ]);
  });
  it("shares what is for all by quantity, the last digit included", () => {
    expect(texts(valuesOut([unit("10", "2"), unit("5")], [cost("0.1")]))).toEqual(["10.0667", "5.0333"]);
  });
  it("adds up to all that went in, for any units and costs", () => {
    const money = fc.integer({ min: 0, max: 10_000_000 }).map((n) => decimal(n).div(10_000));
    const quantity = fc.integer({ min: 1, max: 50 }).map((n) => decimal(n));
    fc.assert(
      fc.property(
        fc.array(fc.record({ valueIn: money, quantity }), { minLength: 1, maxLength: 8 }),
        fc.array(fc.record({ unit: fc.option(fc.nat(7)), value: money }), { maxLength: 8 }),
        (units, all) => {
          const costs = all.filter((own) => own.unit === null || own.unit < units.length);
          const out = valuesOut(units, costs);
          const into = sum([...units.map((own) => own.valueIn), ...costs.map((own) => own.value)]);
          expect(sum(out).toFixed()).toBe(into.toFixed());
          expect(out.every((value) => value.gte(ZERO))).toBe(true);
        },
      ),
    );
  });
});

describe("whether it pays", () => {
  it("is the price less value in, cost so far, and cost still to come", () => {
    const paying = doesItPay({
      valueIn: decimal(240),
      soFar: decimal("64.2"),
      toCome: decimal("20"),
      price: decimal(390),
    });
    expect(texts([paying.cost, paying.margin, paying.percent ?? ZERO, paying.worthSpending])).toEqual([
      "324.2",
      "65.8",
      "16.9",
      "85.8",
    ]);
  });
  it("has no percent without a price, and nothing that is worth spending where it is spent", () => {
    const paying = doesItPay({ valueIn: decimal(240), soFar: ZERO, toCome: ZERO, price: ZERO });
    expect([paying.percent, paying.margin.toFixed(), paying.worthSpending.toFixed()]).toEqual([
      null,
      "-240",
      "0",
    ]);
  });
  it("shares one price out so that each unit pays alike", () => {
    expect(texts(sharePriceByCost(decimal(600), [decimal("279.2"), decimal("265")], 2))).toEqual([
      "307.83",
      "292.17",
    ]);
    expect(texts(sharePriceByCost(decimal(100), [ZERO, ZERO, ZERO], 2))).toEqual(["33.34", "33.33", "33.33"]);
    expect(sharePriceByCost(null, [ZERO, ZERO], 2)).toEqual([null, null]);
  });
});

it("a rework's state follows from its steps, until its units are out", () => {
  expect(reworkState(false, [])).toBe("waiting");
  expect(reworkState(false, ["waiting", "done"])).toBe("under way");
  expect(reworkState(false, ["done", "done"])).toBe("to finish");
  expect(reworkState(true, ["waiting"])).toBe("done");
});
