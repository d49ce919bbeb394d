import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal, type Rate, rateOf } from "../amounts/index.ts";
import { full, line, list, unitOf } from "../testing/scenario.ts";
import { itemNeed, mixedAmount, type PartsList } from "./partslist.ts";
import { type Replacement, replaceInLines } from "./replacing.ts";
import { compareRevisions, type FullLine, sameList, takeInstead, withOptions } from "./revision.ts";

describe("a substitute taken instead of a part", () => {
  const bars = full(line(1, "3", "pc", { waste: decimal(10) }), {
    substitutes: [{ item: 2, quantity: decimal(2) }],
  });
  const glue = full(line(3, "5", "mL", { stock: "L" }), {
    substitutes: [{ item: 4, quantity: decimal("0.5") }],
  });
  const recipe: PartsList<FullLine> = { ...list([]), lines: [bars, glue] };
  const need = (taken: PartsList<FullLine>, at: number, n: number) => {
    const found = taken.lines[at];
    return found && [found.item, itemNeed([found], taken.makes, decimal(n)).toFixed()];
  };
  it("is needed by its own factor, rounded once in its own unit", () => {
    const taken = takeInstead(recipe, 1, { item: 2, unit: unitOf("pc"), stocked: true });
    // 7 × 3 with a tenth of waste are 23.1; twice that are 46.2, so 47
    expect([need(recipe, 0, 7), need(taken, 0, 7)]).toEqual([
      [1, "24"],
      [2, "47"],
    ]);
    expect(need(taken, 1, 7)).toEqual(need(recipe, 1, 7));
  });
  it("keeps the conversion of the line: millilitres into litres, half as much", () => {
    const taken = takeInstead(recipe, 3, { item: 4, unit: unitOf("L"), stocked: true });
    expect([need(recipe, 1, 7), need(taken, 1, 7)]).toEqual([
      [3, "0.035"],
      [4, "0.018"],
    ]);
  });
  it("is taken only where the line allows it", () => {
    const taken = takeInstead(recipe, 3, { item: 2, unit: unitOf("pc"), stocked: true });
    expect(taken.lines).toEqual(recipe.lines);
  });
});

const BOX = 1;

const FLOOR = 2;

const ROOF = 3;

const STRAP = 4;

const cost = (item: number): Rate | null =>
  rateOf(decimal({ [BOX]: "9.40", [FLOOR]: "14.20", [ROOF]: "18.60", [STRAP]: "2.40" }[item] ?? "0"));

const hive = (lines: FullLine[], more: Partial<PartsList<FullLine>> = {}): PartsList<FullLine> => ({
  ...list([], more),
  lines,
});

const boxes = full(line(BOX, "2", "pc"));

const floor = full(line(FLOOR, "1", "pc"));

const roof = full(line(ROOF, "1", "pc"));

const strap = full(line(STRAP, "1", "pc"));

describe("comparing two revisions", () => {
  it("tells what was added, removed and changed, and what each costs", () => {
    const before = hive([boxes, floor, roof]);
    const after = hive([{ ...boxes, quantity: decimal(3), note: "three deep" }, roof, strap]);
    const found = compareRevisions(before, after, cost);
    expect(
      found.lines.map((l) => [
        l.item,
        l.fields,
        l.costBefore?.toFixed(2) ?? null,
        l.costAfter?.toFixed(2) ?? null,
      ]),
    ).toEqual([
      [BOX, ["quantity", "note"], "18.80", "28.20"],
      [STRAP, [], null, "2.40"],
      [FLOOR, [], "14.20", null],
    ]);
    // 18.80 + 14.20 + 18.60 against 28.20 + 18.60 + 2.40
    expect([found.before.each.toFixed(2), found.after.each.toFixed(2)]).toEqual(["51.60", "49.20"]);
  });
  it("tells what of the list itself changed, and nothing of a mere change of order", () => {
    const before = hive([boxes, floor]);
    expect(compareRevisions(before, hive([floor, boxes]), cost)).toMatchObject({ head: [], lines: [] });
    const found = compareRevisions(before, hive([boxes, floor], { yield: decimal(95) }), cost);
    expect([found.head, found.lines]).toEqual([["yield"], []]);
  });
  it("matches a part that stands twice line by line", () => {
    const again = { ...boxes, quantity: decimal(5) };
    const found = compareRevisions(
      hive([boxes, again]),
      hive([boxes, { ...again, waste: decimal(2) }]),
      cost,
    );
    expect(found.lines.map((l) => [l.before?.quantity.toFixed(), l.fields])).toEqual([["5", ["waste"]]]);
  });
  it("counts optional lines in the cost of neither, and shows what they would cost", () => {
    const found = compareRevisions(hive([boxes]), hive([boxes, { ...strap, optional: true }]), cost);
    expect(found.lines[0]?.costAfter?.toFixed(2)).toBe("2.40");
    expect(found.after.each.eq(found.before.each)).toBe(true);
  });
  it("finds nothing between a list and itself, whatever is in it", () => {
    fc.assert(
      fc.property(fc.array(fc.record({ item: fc.nat(5), n: fc.integer({ min: 1, max: 99 }) })), (lines) => {
        const made = hive(lines.map(({ item, n }) => full(line(item, String(n), "pc"))));
        expect(compareRevisions(made, made, cost).lines).toEqual([]);
        expect(sameList(made, made)).toBe(true);
      }),
    );
  });
});

describe("optional lines", () => {
  it("are taken by builds that choose them only", () => {
    const made = hive([boxes, { ...strap, optional: true }]);
    expect(withOptions(made, new Set()).lines.map((l) => l.item)).toEqual([BOX]);
    expect(withOptions(made, new Set([STRAP])).lines.map((l) => l.item)).toEqual([BOX, STRAP]);
  });
});

describe("parts in the product's own dimension", () => {
  const mix = (...lines: FullLine[]) =>
    mixedAmount(hive(lines, { makes: decimal(1) }), unitOf("L"))?.toFixed() ?? null;
  it("are added up beside the output, across units", () => {
    expect(mix(full(line(1, "1.1", "L")), full(line(2, "200", "mL", { stock: "L" })))).toBe("1.3");
  });
  it("say nothing where they match, where there are none, and of counted goods", () => {
    expect(mix(full(line(1, "1000", "mL", { stock: "L" })))).toBeNull();
    expect(mix(full(line(1, "1", "kg")))).toBeNull();
    expect(mixedAmount(hive([boxes]), unitOf("pc"))).toBeNull();
  });
});

describe("replacing a part", () => {
  const swap = (change: Partial<Replacement> = {}): Replacement => ({
    part: BOX,
    successor: 9,
    unit: unitOf("pc"),
    stocked: true,
    per: decimal(1),
    of: decimal(1),
    ...change,
  });
  it("puts so many of the successor for so many of the part", () => {
    const { lines, inexact } = replaceInLines([boxes, floor], swap({ per: decimal(2) }));
    expect([lines.map((l) => [l.item, l.quantity.toFixed()]), inexact]).toEqual([
      [
        [9, "4"],
        [FLOOR, "1"],
      ],
      [],
    ]);
  });
  it("keeps the unit of the line within a dimension, and goes to the successor's stock unit across two", () => {
    const pins = full(line(BOX, "10", "g", { stock: "kg" }));
    const kilos = replaceInLines([pins], swap({ unit: unitOf("kg"), per: decimal("1.5") }));
    expect(kilos.lines.map((l) => `${l.quantity} ${l.unit.code}`)).toEqual(["15 g"]);
    // 400 staples for 1 kg of pins: 10 g are 4
    const pieces = replaceInLines([pins], swap({ per: decimal(400) }));
    expect(pieces.lines.map((l) => `${l.quantity} ${l.unit.code}`)).toEqual(["4 pc"]);
  });
  it("leaves a line alone and says so where it would have to round", () => {
    const { lines, inexact } = replaceInLines([floor, boxes], swap({ per: decimal(2), of: decimal(3) }));
    expect([lines[1]?.item, inexact]).toEqual([BOX, [1]]);
  });
  it("goes through substitutes too, whose factors are told for one of the part", () => {
    const swapped = (of: FullLine) =>
      replaceInLines([of], swap({ per: decimal(2) })).lines[0]?.substitutes.map((s) => [
        s.item,
        s.quantity.toFixed(),
      ]);
    expect(swapped(full(boxes, { substitutes: [{ item: 7, quantity: decimal(4) }] }))).toEqual([[7, "2"]]);
    expect(swapped(full(floor, { substitutes: [{ item: BOX, quantity: decimal(3) }] }))).toEqual([[9, "6"]]);
  });
  it("by another and back again restores every list", () => {
    const units = ["kg", "g"] as const;
    const lines = fc.array(
      fc.record({
        item: fc.nat(4),
        n: fc.integer({ min: 1, max: 99_999 }),
        unit: fc.constantFrom(...units),
        substitutes: fc.array(
          fc.record({ item: fc.constantFrom(0, 5, 6), n: fc.integer({ min: 1, max: 999 }) }),
          { maxLength: 2 },
        ),
      }),
      { maxLength: 6 },
    );
    const factor = fc.integer({ min: 1, max: 12 });
    fc.assert(
      fc.property(lines, factor, factor, fc.constantFrom(...units), (made, per, of, stock) => {
        const before = made.map(({ item, n, unit, substitutes }) =>
          full(line(item, `${n}e-3`, unit, { stock: "kg" }), {
            substitutes: substitutes.map((s) => ({ item: s.item, quantity: decimal(s.n) })),
          }),
        );
        const there = replaceInLines(before, {
          part: 0,
          successor: 9,
          unit: unitOf(stock),
          stocked: true,
          per: decimal(per),
          of: decimal(of),
        });
        if (there.inexact.length > 0) return;
        const back = replaceInLines(there.lines, {
          part: 9,
          successor: 0,
          unit: unitOf("kg"),
          stocked: true,
          per: decimal(of),
          of: decimal(per),
        });
        expect(back.inexact).toEqual([]);
        expect(sameList(hive(back.lines), hive(before))).toBe(true);
      }),
    );
  });
});
