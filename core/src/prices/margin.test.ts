import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal } from "../amounts/index.ts";
import { isBelow, margin, priceForMargin } from "./margin.ts";

describe("prices", () => {
  it("follow from a margin, to the cent and never below it", () => {
    expect(priceForMargin(decimal("20.4868"), decimal(40), 2)?.toFixed(2)).toBe("34.15");
    expect(priceForMargin(decimal(10), decimal(100), 2)).toBeNull();
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9_999_999 }),
        fc.integer({ min: 0, max: 989 }),
        (cost, tenths) => {
          const price = priceForMargin(decimal(`${cost}e-4`), decimal(`${tenths}e-1`), 2);
          if (!price) throw new Error("a margin below 100 % has a price");
          expect(isBelow(margin(price, decimal(`${cost}e-4`)), decimal(`${tenths}e-1`))).toBe(false);
        },
      ),
    );
  });
  it("leave nothing where they are zero", () => {
    expect(isBelow(margin(decimal(0), decimal(1)), decimal(0))).toBe(true);
  });
});
