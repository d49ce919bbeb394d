import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal } from "../amounts/index.ts";
import { FEED, full, line, list, unitOf } from "../testing/scenario.ts";
import { ownParts, partsDeviation, takeForShort } from "./ownparts.ts";
import { lineNeed } from "./partslist.ts";

const feed = FEED.lines.map((l) => ({ line: l, need: null }));

describe("the parts of one build", () => {
  it("meets what was said for 20 of FEED-12, and leaves what stays as the list says it for any number", () => {
    const changed = feed.map((l, i) => (i === 0 ? { ...l, need: decimal("251.4") } : l));
    const own = ownParts(FEED.makes, decimal(20), changed);
    expect(own.lines.map((l) => lineNeed(l, own.makes, decimal(20)).toFixed())).toEqual([
      "251.4",
      ...FEED.lines.slice(1).map((l) => lineNeed(l, FEED.makes, decimal(20)).toFixed()),
    ]);
    for (const units of ["1", "7", "10", "33"])
      expect(own.lines.slice(1).map((l) => lineNeed(l, own.makes, decimal(units)).toFixed())).toEqual(
        FEED.lines.slice(1).map((l) => lineNeed(l, FEED.makes, decimal(units)).toFixed()),
      );
    // Half of the build takes half of what was said.
    expect(own.lines[0] && lineNeed(own.lines[0], own.makes, decimal(10)).toFixed()).toBe("125.7");
  });
  it("keeps a need of a third of a piece a unit, and one that is once per build, exactly", () => {
    const own = ownParts(decimal(1), decimal(3), [
      { line: line(1, "2", "pc"), need: decimal(7) },
      { line: line(2, "1", "pc", { oncePerBuild: true }), need: decimal(2) },
    ]);
    expect(own.lines.map((l) => lineNeed(l, own.makes, decimal(3)).toFixed())).toEqual(["7", "2"]);
    expect(own.lines[1] && lineNeed(own.lines[1], own.makes, decimal(300)).toFixed()).toBe("2");
  });
  it("takes any needs, as often as they are changed", () => {
    const amount = fc.integer({ min: 1, max: 9_999_999 }).map((n) => decimal(n).div(1000));
    fc.assert(
      fc.property(
        amount,
        fc.array(fc.tuple(amount, fc.option(amount)), { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 1, max: 5000 }),
        fc.integer({ min: 1, max: 9 }),
        (units, parts, makes, times) => {
          let own = ownParts(
            decimal(makes),
            units,
            parts.map(([quantity, need]) => ({ line: { ...line(1, "1", "kg"), quantity }, need })),
          );
          const needs = own.lines.map((l) => lineNeed(l, own.makes, units).toFixed());
          for (const [i, [, need]] of parts.entries()) if (need) expect(needs[i]).toBe(need.toFixed());
          for (let i = 0; i < times; i++)
            own = ownParts(
              own.makes,
              units,
              own.lines.map((l) => ({ line: l, need: null })),
            );
          expect(own.lines.map((l) => lineNeed(l, own.makes, units).toFixed())).toEqual(needs);
        },
      ),
    );
  });
  it("refuses what no batch could be stored for", () => {
    const huge = [
      { line: line(1, "8999999.999999", "kg"), need: null },
      { line: line(2, "1", "kg"), need: decimal("0.000007") },
    ];
    expect(() => ownParts(decimal("999983.000001"), decimal("7919.000003"), huge)).toThrow("too large");
  });
});

describe("how a build differs from its list", () => {
  it("tells what the list plans for each line, what was added and what is left out", () => {
    const list = { ...FEED, lines: FEED.lines.map((l, i) => ({ ...l, listLine: i + 1 })) };
    const { listed, leftOut } = partsDeviation(list, decimal(20), [
      { listLine: 1 },
      { listLine: null },
      { listLine: 3 },
    ]);
    expect(listed.map((l) => l?.need.toFixed() ?? null)).toEqual(["249.9", null, "20"]);
    expect(leftOut.map((l) => `${l.item} ${l.need.toFixed()} ${l.unit}`)).toEqual([
      "2 0.1 L",
      "4 21 pc",
      "5 1 pc",
      "6 30 min",
    ]);
  });
});

describe("a substitute for what is short only", () => {
  const by = { item: 9, unit: unitOf("pc"), stocked: true };
  const substitutes = [{ item: 9, quantity: decimal("1.5") }];
  const hive = {
    ...list([]),
    lines: [
      full(line(1, "2", "pc"), { substitutes }),
      full(line(2, "1", "pc")),
      full(line(1, "1", "pc"), { substitutes }),
    ],
  };
  const needs = (short: string) => {
    const taken = takeForShort(hive, decimal(10), 1, by, decimal(short));
    return taken.lines.map((l) => `${l.item}: ${lineNeed(l, taken.makes, decimal(10)).toFixed()}`);
  };
  it("takes the last line's place first, by its factor, raised to its unit", () => {
    expect(needs("7")).toEqual(["1: 20", "2: 10", "1: 3", "9: 11"]);
    expect(needs("14")).toEqual(["1: 16", "2: 10", "1: 0", "9: 15", "9: 6"]);
    expect(needs("0")).toEqual(["1: 20", "2: 10", "1: 10"]);
  });
  it("takes no more than is needed, and nothing of what allows no substitute", () => {
    expect(needs("99")).toEqual(["1: 0", "2: 10", "1: 0", "9: 15", "9: 30"]);
    const none = takeForShort(hive, decimal(10), 2, by, decimal(5));
    expect(none.lines.map((l) => l.item)).toEqual([1, 2, 1]);
  });
});
