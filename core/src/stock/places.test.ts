import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal, sum } from "../amounts/index.ts";
import { placeValues } from "./places.ts";

describe("the value of a pool at its places", () => {
  it("is shared by quantity, adding up to the whole", () => {
    const { at, revalued } = placeValues(decimal("10"), [
      { place: "Front store", quantity: decimal(1) },
      { place: "Yard", quantity: decimal(2) },
    ]);
    expect(at.map(({ value }) => value.toFixed(4))).toEqual(["3.3333", "6.6667"]);
    expect(revalued.toFixed()).toBe("0");
  });
  it("stands alone where no pieces are left for it", () => {
    const { at, revalued } = placeValues(decimal("1.25"), [{ place: "Yard", quantity: decimal(0) }]);
    expect([at, revalued.toFixed()]).toEqual([[], "1.25"]);
  });
  it("adds up, whatever lies where", () => {
    const places = fc.array(fc.nat(1000), { maxLength: 6 });
    fc.assert(
      fc.property(fc.integer({ min: -99_999, max: 99_999 }), places, (cents, quantities) => {
        const value = decimal(cents).div(100);
        const { at, revalued } = placeValues(
          value,
          quantities.map((n, i) => ({ place: String(i), quantity: decimal(n) })),
        );
        expect(
          sum(at.map((one) => one.value))
            .plus(revalued)
            .eq(value),
        ).toBe(true);
      }),
    );
  });
});
