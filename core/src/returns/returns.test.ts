import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal, ONE, sum, ZERO } from "../amounts/index.ts";
import { revenueSoFar } from "../shipping/index.ts";
import { yard } from "../testing/yard.ts";
import { creditDue, creditFor, shareCredit } from "./credit.ts";
import { enteringValue } from "./entering.ts";

const d = decimal;

const left = (counts: readonly number[]) => ({ of: (item: number) => d(counts[item - 1] ?? 0), units: ZERO });

describe("the credit of a return (docs/rules.md § 12)", () => {
  it("is what was paid for what came back: KIT-YARD without its gloves 226.35, the gloves later 12.65", () => {
    const counted = { revenue: d("239.00"), credited: ZERO };
    const first = creditFor(yard(), left([1, 1, 1, 1, 1]), left([0, 0, 1, 0, 0]), counted, 2);
    expect(first.toFixed(2)).toBe("226.35");
    const rest = creditFor(
      yard(),
      left([1, 1, 1, 1, 1]),
      left([0, 0, 0, 0, 0]),
      { ...counted, credited: first },
      2,
    );
    expect(rest.toFixed(2)).toBe("12.65");
  });

  it("keeps to what was paid where the price was changed since", () => {
    // Two sets were counted at 200.00 each; one comes back.
    const counted = { revenue: d("400.00"), credited: ZERO };
    const credit = creditFor(yard("2"), left([2, 2, 2, 2, 2]), left([1, 1, 1, 1, 1]), counted, 2);
    expect(credit.toFixed(2)).toBe("200.00");
  });

  it("adds up to all that was paid over any returns, and is shared out whole", () => {
    const steps = fc.array(fc.array(fc.nat(2), { minLength: 5, maxLength: 5 }), { maxLength: 6 });
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 4 }), steps, (sets, returns) => {
        const sold = yard(String(sets));
        const shipped = [sets, sets, sets, sets, sets];
        const revenue = revenueSoFar(sold, left(shipped), 2);
        let kept = shipped;
        let credited = ZERO;
        for (const back of [...returns, shipped]) {
          const now = kept.map((n, i) => Math.max(0, n - (back[i] ?? 0)));
          const credit = creditFor(sold, left(shipped), left(now), { revenue, credited }, 2);
          const pieces = now.map((n, i) => ({ brought: d((kept[i] ?? 0) - n), quantity: ONE }));
          expect(sum(shareCredit(credit, pieces, 2)).eq(credit)).toBe(true);
          credited = credited.plus(credit);
          kept = now;
        }
        expect(credited.eq(revenue)).toBe(true);
      }),
    );
  });

  it("is less by a restocking fee, and never below nothing", () => {
    expect(creditDue([d("226.35"), d("1.00")], d("20.00")).toFixed(2)).toBe("207.35");
    expect(creditDue([d("12.00")], d("20.00")).toFixed(2)).toBe("0.00");
  });
});

describe("the value at which goods come back", () => {
  it("is what they carried when they were shipped: the set without its gloves 206.3000", () => {
    const values = ["148.0000", "36.0000", "17.2000", "5.1000"].map((value) =>
      enteringValue({ quantity: ONE, value: d(value), returned: ZERO }, ONE),
    );
    expect(sum(values).toFixed(4)).toBe("206.3000");
  });

  it("comes back whole over any parts: three pieces worth 10.0000", () => {
    const at = (returned: number) =>
      enteringValue({ quantity: d(3), value: d("10"), returned: d(returned) }, ONE).toFixed(4);
    expect([at(0), at(1), at(2)]).toEqual(["3.3333", "3.3334", "3.3333"]);
  });
});
