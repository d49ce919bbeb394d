import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal, ONE, rateOf, sum, ZERO } from "../amounts/index.ts";
import { line, unitOf } from "../testing/scenario.ts";
import { expectedOfBuild, type UsedPart } from "./expected.ts";
import { recover, type TakenOutPart } from "./recovery.ts";
import { unitsForShortage } from "./shortage.ts";

const d = decimal;

const part = (
  cost: string | null,
  expected: string,
  {
    damaged = "0",
    missing = "0",
    share = null,
  }: { damaged?: string; missing?: string; share?: string | null } = {},
): TakenOutPart => ({
  expected: d(expected),
  good: d(expected).minus(damaged).minus(missing),
  damaged: d(damaged),
  missing: d(missing),
  share: share === null ? null : d(share),
  unitCost: cost === null ? null : rateOf(d(cost)),
});

/** HIVE-N: two boxes, twenty frames of which two are damaged and one is missing, floor, roof, crown board. */
const hive = [
  part("9.40", "2"),
  part("2.05", "20", { damaged: "2", missing: "1" }),
  part("14.20", "1"),
  part("18.60", "1"),
  part("6.10", "1"),
];

describe("the value of what is taken apart (docs/rules.md § 17)", () => {
  it("HIVE-N carrying 96.0000: 90.0182 recovered, 5.9818 lost with three frames", () => {
    const found = recover(d("96.0000"), hive);
    expect(found.parts.map(({ allotted }) => allotted.toFixed(4))).toEqual([
      "18.2857",
      "39.8784",
      "13.8116",
      "18.0912",
      "5.9331",
    ]);
    const frames = found.parts[1];
    expect(frames?.recovered.toFixed(4)).toBe("33.8966");
    expect(frames?.damaged.plus(frames.missing).toFixed(4)).toBe("5.9818");
    expect(found.recovered.toFixed(4)).toBe("90.0182");
    expect(found.workPutIn.toFixed(4)).toBe("0.0000");
  });

  it("carrying 120.0000: 98.7000 shared out, 21.3000 work put in", () => {
    const found = recover(d("120.0000"), hive);
    expect(sum(found.parts.map(({ allotted }) => allotted)).toFixed(4)).toBe("98.7000");
    expect(found.workPutIn.toFixed(4)).toBe("21.3000");
  });

  it("goes by the list's shares, all of it; without any cost by what is expected", () => {
    const shares = [part("9.40", "2", { share: "75" }), part("1.00", "1", { share: "25" })];
    expect(recover(d("120"), shares).parts.map(({ allotted }) => allotted.toFixed())).toEqual(["90", "30"]);
    const unknown = [part(null, "3"), part(null, "1")];
    expect(recover(d("10"), unknown).parts.map(({ allotted }) => allotted.toFixed())).toEqual(["7.5", "2.5"]);
  });

  it("value out = recovered + lost, for any split, shares and rounding", () => {
    const figures = fc.record({
      cost: fc.option(fc.integer({ min: 0, max: 99_999 })),
      good: fc.integer({ min: 0, max: 50 }),
      damaged: fc.integer({ min: 0, max: 5 }),
      missing: fc.integer({ min: 0, max: 5 }),
    });
    const value = fc.integer({ min: 0, max: 9_999_999 });
    fc.assert(
      fc.property(value, fc.array(figures, { maxLength: 8 }), fc.boolean(), (worth, typed, byShares) => {
        const parts = typed.map(
          ({ cost, good, damaged, missing }, i): TakenOutPart => ({
            expected: d(good + damaged + missing),
            good: d(good),
            damaged: d(damaged),
            missing: d(missing),
            share: byShares ? d(i === 0 ? 100 - (typed.length - 1) : 1) : null,
            unitCost: cost === null ? null : rateOf(d(cost).div(100)),
          }),
        );
        const out = d(worth).div(10_000);
        const { recovered, damaged, missing, workPutIn } = recover(out, parts);
        expect(sum([recovered, damaged, missing, workPutIn]).eq(out)).toBe(true);
        for (const figure of [recovered, damaged, missing, workPutIn]) expect(figure.gte(0)).toBe(true);
      }),
    );
  });
});

describe("the parts expected", () => {
  const used = (change: Partial<UsedPart>): UsedPart => ({
    item: 1,
    used: ZERO,
    scrapped: ZERO,
    decimals: 0,
    oncePerBuild: false,
    service: false,
    stocked: true,
    ...change,
  });

  it("are what went into the build's units, in proportion, rounded down; without work and what is taken once", () => {
    // FEED-12, 20 worked: 251.4 L used of which 1.4 spilt; 21 labels; a set-up sheet once; 30 min.
    const feed = [
      used({ item: 1, used: d("251.4"), scrapped: d("1.4"), decimals: 3 }),
      used({ item: 2, used: d("21") }),
      used({ item: 3, used: d("1"), oncePerBuild: true }),
      used({ item: 4, used: d("0.5"), service: true, stocked: false }),
    ];
    const expected = expectedOfBuild(feed, d("20"), d("3"));
    expect(expected.map(({ item, quantity }) => [item, quantity.toFixed()])).toEqual([
      [1, "37.5"],
      [2, "3"],
    ]);
  });

  it("have an item of two lines once, and nothing that rounds down to nothing", () => {
    // 2.5 and 3.5 are six together.
    const lines = [
      used({ item: 1, used: d("5") }),
      used({ item: 1, used: d("7") }),
      used({ item: 2, used: d("1") }),
    ];
    expect(
      expectedOfBuild(lines, d("4"), d("2")).map(({ item, quantity }) => [item, quantity.toFixed()]),
    ).toEqual([[1, "6"]]);
  });
});

describe("units taken apart for what is short", () => {
  const FRAME = 1;
  const hives = (short: string, free: string, part = FRAME) => {
    const found = unitsForShortage([line(FRAME, "20", "pc"), line(2, "2", "pc")], ONE, unitOf("pc"), {
      part,
      short: d(short),
      free: d(free),
    });
    return [found.units.toFixed(), found.held.toFixed()];
  };

  it("are no more than the shortage asks for, and no more than are free", () => {
    expect(hives("194", "14")).toEqual(["10", "200"]);
    expect(hives("200", "14")).toEqual(["10", "200"]);
    expect(hives("201", "14")).toEqual(["11", "220"]);
    expect(hives("194", "3")).toEqual(["3", "60"]);
    expect(hives("1", "14")).toEqual(["1", "20"]);
  });
  it("are none where none is free, or the list has no such part", () => {
    expect(hives("194", "-6")).toEqual(["0", "0"]);
    expect(hives("194", "0")).toEqual(["0", "0"]);
    expect(hives("194", "14", 3)[1]).toBe("0");
  });
});
