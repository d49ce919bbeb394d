import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { unitOf } from "../testing/scenario.ts";
import { addDays, dayIn, daysBetween, isDay, parseDay } from "./days.ts";
import { decimal, divideDown, divideRounded, divideUp, roundMoney, sum } from "./decimal.ts";
import { numberMarks, parseNumber } from "./numbers.ts";
import { AmountTooLarge, moneyToScaled, quantityFromScaled, quantityToScaled } from "./scaled.ts";
import { split } from "./split.ts";
import { convertNeed, fillsPacks, tooManyDecimals } from "./units.ts";

const whole = fc.bigInt({ min: 0n, max: 10n ** 15n });

const scaled = fc.tuple(whole, fc.integer({ min: 0, max: 6 })).map(([n, d]) => decimal(`${n}e-${d}`));

describe("division", () => {
  it("is exact where the quotient does not end", () => {
    expect(divideDown(decimal(1), decimal(3), 4).toFixed()).toBe("0.3333");
    expect(divideUp(decimal(1), decimal(3), 4).toFixed()).toBe("0.3334");
  });
  it("does not step up where the quotient is exact", () => {
    expect(divideUp(decimal(20), decimal(8), 1).toFixed()).toBe("2.5");
  });
  it("is not misled by a quotient a hair below a step", () => {
    const hair = decimal("0.9999999999999999999999999999999999999999");
    expect(divideDown(hair, decimal(1), 0).toFixed()).toBe("0");
    expect(divideUp(hair, decimal(1), 0).toFixed()).toBe("1");
  });
  it("brackets the quotient within one step", () => {
    fc.assert(
      fc.property(scaled, scaled, fc.integer({ min: 0, max: 6 }), (a, b, decimals) => {
        fc.pre(b.gt(0));
        const down = divideDown(a, b, decimals);
        const up = divideUp(a, b, decimals);
        expect(down.times(b).lte(a) && up.times(b).gte(a)).toBe(true);
        expect(up.minus(down).lte(decimal(`1e-${decimals}`))).toBe(true);
      }),
    );
  });
});

describe("a rounded quotient", () => {
  it("is half away from zero, on either side of it", () => {
    expect(divideRounded(decimal(1), decimal(8), 2).toFixed()).toBe("0.13");
    expect(divideRounded(decimal(-1), decimal(8), 2).toFixed()).toBe("-0.13");
    expect(divideRounded(decimal(0), decimal(-8), 2).toFixed()).toBe("0");
    expect(() => divideRounded(decimal(1), decimal(0), 2)).toThrow(RangeError);
  });
  it("is rounded once: a hair below the half is not raised to it first", () => {
    expect(divideRounded(decimal(`0.4${"9".repeat(40)}`), decimal(1), 0).toFixed()).toBe("0");
  });
  it("is the nearer of the steps around it", () => {
    fc.assert(
      fc.property(scaled, scaled, fc.integer({ min: 0, max: 6 }), (a, b, decimals) => {
        fc.pre(b.gt(0));
        const [down, up] = [divideDown(a, b, decimals), divideUp(a, b, decimals)];
        const nearer = a.minus(down.times(b)).lt(up.times(b).minus(a)) ? down : up;
        expect(divideRounded(a, b, decimals).eq(nearer)).toBe(true);
      }),
    );
  });
});

describe("rounding and splitting money", () => {
  it("rounds half away from zero", () => {
    expect(roundMoney(decimal("3.33335"), 4).toFixed()).toBe("3.3334");
    expect(roundMoney(decimal("-3.33335"), 4).toFixed()).toBe("-3.3334");
  });
  it("shares KIT-YARD's 239.00 by list price as docs/rules.md § 7 says", () => {
    const shares = split(decimal(239), ["164", "58", "14.5", "27.9", "9.6"].map(decimal), 2);
    expect(shares.map((s) => s.toFixed(2))).toEqual(["143.05", "50.59", "12.65", "24.34", "8.37"]);
  });
  it("gives what is left to the earlier share on a tie, and equal shares where nothing weighs", () => {
    expect(split(decimal("1"), [decimal(0), decimal(0), decimal(0)], 2).map((s) => s.toFixed(2))).toEqual([
      "0.34",
      "0.33",
      "0.33",
    ]);
  });
  it("always adds up to the whole", () => {
    const weights = fc.array(scaled, { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(whole, weights, (n, w) => {
        const amount = decimal(`${n}e-4`);
        expect(sum(split(amount, w, 4)).eq(amount)).toBe(true);
      }),
    );
  });
});

describe("units", () => {
  it("converts a need exactly and raises it once", () => {
    expect(convertNeed(decimal("100"), decimal(1), unitOf("mL"), unitOf("L")).toFixed()).toBe("0.1");
    expect(convertNeed(decimal("87.4651"), decimal(1), unitOf("L"), unitOf("L")).toFixed()).toBe("87.466");
  });
  it("refuses another dimension", () => {
    expect(() => convertNeed(decimal(1), decimal(1), unitOf("g"), unitOf("L"))).toThrow(
      "g does not convert to L",
    );
  });
  it("counts decimals as they are used, not as they are written", () => {
    expect(tooManyDecimals(decimal("2.500"), unitOf("pc"))).toBe(1);
    expect(tooManyDecimals(decimal("2.000"), unitOf("pc"))).toBeNull();
    expect(tooManyDecimals(decimal("0.0001"), unitOf("kg"))).toBe(4);
  });
});

describe("stored amounts", () => {
  it("keeps quantities as millionths and money as ten-thousandths", () => {
    expect(quantityToScaled(decimal("249.9"))).toBe(249_900_000);
    expect(moneyToScaled(decimal("-0.0001"))).toBe(-1);
    expect(quantityFromScaled(1).toFixed()).toBe("0.000001");
  });
  it("refuses what it cannot keep exactly", () => {
    expect(() => moneyToScaled(decimal("0.00001"))).toThrow(RangeError);
    expect(() => quantityToScaled(decimal("10000000000"))).toThrow(AmountTooLarge);
  });
  it("reads back what it kept", () => {
    fc.assert(
      fc.property(fc.integer({ min: -9e15, max: 9e15 }), (n) => {
        expect(quantityToScaled(quantityFromScaled(n))).toBe(n);
      }),
    );
  });
});

describe("days", () => {
  const monday = "2026-11-23";
  it.each([
    ["t", "2026-11-23"],
    ["Today", "2026-11-23"],
    ["+10", "2026-12-03"],
    ["-3", "2026-11-20"],
    ["fri", "2026-11-27"],
    ["mon", "2026-11-30"],
    ["12 dec", "2026-12-12"],
    ["Dec 12", "2026-12-12"],
    ["12.12.", "2026-12-12"],
    ["1/2", "2027-02-01"],
    ["12/12/27", "2027-12-12"],
    ["2027-02-28", "2027-02-28"],
  ])("reads %s", (typed, day) => {
    expect(parseDay(typed, monday)).toBe(day);
  });
  it.each(["", "soon", "tu es", "31 Feb", "2026-02-30", "13/13", "5", "12 ju"])(
    "does not guess at '%s'",
    (typed) => {
      expect(parseDay(typed, monday)).toBeNull();
    },
  );
  it("reads month first where the person writes so", () => {
    const words = { weekdays: [], months: [], today: "today", dayFirst: false };
    expect(parseDay("12/1", monday, words)).toBe("2026-12-01");
  });
  it("counts and adds across a change of clocks", () => {
    expect(addDays("2026-03-28", 2)).toBe("2026-03-30");
    expect(daysBetween("2026-10-20", "2026-11-01")).toBe(12);
  });
  it("tells the calendar date in the company's time zone", () => {
    expect(dayIn("Europe/Vienna", "2026-11-23T23:30:00Z")).toBe("2026-11-24");
    expect(dayIn("America/New_York", "2026-11-24T02:00:00Z")).toBe("2026-11-23");
  });
  it("knows which days exist", () => {
    expect([isDay("2028-02-29"), isDay("2027-02-29"), isDay("27-02-01")]).toEqual([true, false, false]);
  });
});

describe("typed numbers", () => {
  const english = numberMarks("en");
  const german = numberMarks("de");
  it.each([
    ["1,234.5", "1234.5"],
    ["  20 ", "20"],
    [".5", "0.5"],
    ["−2", "-2"],
    ["3.", "3"],
    ["1 000", "1000"],
  ])("reads %s in English", (typed, plain) => {
    expect(parseNumber(typed, english)).toBe(plain);
  });
  it.each(["", "ten", "1,23", "1.2.3", "1,2345.6", "2x", "1.234,5", "--1"])("refuses '%s'", (typed) => {
    expect(parseNumber(typed, english)).toBeNull();
  });
  it("follows the person's own marks", () => {
    expect(parseNumber("1.234,5", german)).toBe("1234.5");
    expect(parseNumber("0,040", german)).toBe("0.040");
    expect(parseNumber("1.5", german)).toBeNull();
    expect(parseNumber("1 234,5", numberMarks("fr"))).toBe("1234.5");
  });
});

describe("packs", () => {
  it("are told by the largest that a quantity fills", () => {
    const packs = [
      { name: "box of 50", quantity: "50" },
      { name: "pallet", quantity: "1000" },
    ];
    expect(fillsPacks("120", packs)).toEqual({ name: "box of 50", count: "2.4" });
    expect(fillsPacks("3000", packs)).toEqual({ name: "pallet", count: "3" });
    expect(fillsPacks("49", packs)).toBeNull();
  });
});
