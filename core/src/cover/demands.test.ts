import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, type Decimal, decimal, sum, ZERO } from "../amounts/index.ts";
import { affordable, finishedBy, mostThat, spending } from "../mix/index.ts";
import { demand, type SupplyFigures, supplies, supply } from "../testing/cover.ts";
import { CAN, FEED, LABEL, line, list, SHEET, SYRUP, THYMOL } from "../testing/scenario.ts";
import { type Cover, cover, type DemandPart } from "./cover.ts";
import type { Demand, Supply } from "./demand.ts";

const TODAY = "2026-11-23";

const each = (item: number, quantity: string, more = {}) => line(item, quantity, "pc", more);

const show = (value: Decimal | "no limit" | null) =>
  typeof value === "string" || value === null ? value : value.toFixed();

/** The figures of one part of a demand, in the order in which they are figured. */
const figures = (part: DemandPart | undefined) =>
  part &&
  [part.need, part.fromFree, part.shortNow, part.shortOnDay, part.uncovered]
    .map(show)
    .concat([part.day, part.freshDay]);

describe("a check of one product (docs/rules.md § 3)", () => {
  it("makes 22 of FEED-12 now, limited by labels, and says by how much each part is short", () => {
    const answer = cover(
      [demand(1, 99, "40", FEED)],
      supplies({
        [SYRUP]: { onHand: "330", reserved: "10", expired: "20" },
        [THYMOL]: { onHand: "0.5" },
        [CAN]: { onHand: "40" },
        [LABEL]: { onHand: "30", reserved: "6" },
        [SHEET]: { onHand: "5" },
      }),
      TODAY,
    );
    const [feed] = answer.demands;
    expect(feed?.parts.map((p) => show(p.reach))).toEqual(["24", "100", "40", "22", "no limit"]);
    expect([show(feed?.makesNow ?? null), feed?.limiting]).toEqual(["22", [LABEL]]);
    expect(answer.parts.map((p) => show(p.shortNow))).toEqual(["199.8", "0", "0", "18", "0"]);
    expect(answer.parts.map((p) => show(p.leftOver))).toEqual(["0", "0.3", "0", "0", "4"]);
    // nobody supplies syrup or labels, so nobody can say when
    expect([feed?.finish, answer.finish]).toEqual([null, null]);
  });
});

describe("three products that share four parts, with two orders on their way", () => {
  const [BOX, BAR, PIN, TAG] = [1, 2, 3, 4];
  const [HIVE, STAND, TRAY] = [11, 12, 13];
  const hive = list([each(BOX, "2"), each(BAR, "10")]);
  const stand = list([each(BOX, "1"), each(BAR, "5"), each(PIN, "1")]);
  const tray = list([each(PIN, "3"), each(TAG, "1", { waste: decimal(5) })]);
  const supplyOf = supplies({
    [BOX]: { onHand: "30", incoming: [["P-8", "20", "2026-12-09"]], offer: { leadDays: 9, minimum: "10" } },
    [BAR]: { onHand: "130", reserved: "30", incoming: [["P-7", "60", "2026-11-27"]], offer: { leadDays: 9 } },
    [PIN]: { onHand: "20", offer: { leadDays: 12, minimum: "6", multiple: "4" } },
    [TAG]: { onHand: "12", offer: { leadDays: 5, minimum: "500", multiple: "500" } },
  });
  const answer = cover(
    [
      demand(1, HIVE, "10", hive, { day: "2026-12-02", buildDays: 2 }),
      demand(2, STAND, "12", stand, { day: "2026-12-01", buildDays: 1 }),
      demand(3, TRAY, "6", tray),
    ],
    supplyOf,
    TODAY,
  );
  const [hives, stands, trays] = answer.demands;

  it("serves the stands first: they are wanted a day before the hives", () => {
    // 12 stands start on 30 November. Boxes: 12 of 30. Bars: 60 of 130 − 30 = 100. Pins: 12 of 20.
    expect(stands?.startDay).toBe("2026-11-30");
    expect(stands?.parts.map(figures)).toEqual([
      ["12", "12", "0", "0", "0", TODAY, null],
      ["60", "60", "0", "0", "0", TODAY, null],
      ["12", "12", "0", "0", "0", TODAY, null],
    ]);
    // Boxes reach 30 stands, bars 100 ÷ 5 = 20, pins 20: 20 can be made. All 12 are there today, and a day's work.
    expect([show(stands?.makesNow ?? null), stands?.limiting, stands?.finish]).toEqual([
      "20",
      [BAR, PIN],
      "2026-11-24",
    ]);
  });
  it("gives the hives what is left, then what comes: bars in time, boxes too late", () => {
    // 10 hives start on 30 November too. Boxes: need 20, 30 − 12 = 18 left, so 2 from P-8 on 9 December: 2 short on the
    // day. Ordered today, boxes would be there on 23 + 9 = 2 December, before P-8.
    // Bars: need 100, 100 − 60 = 40 left, so 60 from P-7 on 27 November: 60 short now, none on the day; a fresh order
    // would be later.
    expect(hives?.startDay).toBe("2026-11-30");
    expect(hives?.parts.map(figures)).toEqual([
      ["20", "18", "2", "2", "0", "2026-12-09", "2026-12-02"],
      ["100", "40", "60", "0", "0", "2026-11-27", null],
    ]);
    // Boxes reach 18 ÷ 2 = 9 hives, bars 40 ÷ 10 = 4: 4 now. With what comes by 30 November, bars reach (40 + 60) ÷ 10 = 10.
    expect(hives?.parts.map((p) => [show(p.reach), show(p.reachInTime())])).toEqual([
      ["9", "9"],
      ["4", "10"],
    ]);
    // The last part is there on 9 December, and two days' work.
    expect([show(hives?.makesNow ?? null), hives?.limiting, hives?.finish]).toEqual([
      "4",
      [BAR],
      "2026-12-11",
    ]);
  });
  it("serves the undated trays last", () => {
    // 6 trays. Pins: need 18, 20 − 12 = 8 left, so 10 nobody has: ordered today they come on 23 November + 12 = 5 December.
    // Tags: 6 × 1.05 = 6.3, so 7 of 12.
    expect(trays?.parts.map(figures)).toEqual([
      ["18", "8", "10", "10", "10", "2026-12-05", null],
      ["7", "7", "0", "0", "0", TODAY, null],
    ]);
    // Pins reach 8 ÷ 3 = 2 trays; tags 11 (11.55, so 12), not 12 (12.6, so 13).
    expect(trays?.parts.map((p) => show(p.reach))).toEqual(["2", "11"]);
    expect([show(trays?.makesNow ?? null), trays?.finish]).toEqual(["2", "2026-12-05"]);
  });
  it("adds each part up over all, and marks what suffices for each alone and not for all", () => {
    const totals = answer.parts.map((p) => {
      const shown = [p.need, p.free, p.incoming, p.shortNow, p.shortOnDay, p.leftOver].map(show);
      return [p.item, ...shown, p.shortTogether];
    });
    expect(totals).toEqual([
      // boxes: 20 + 12 = 32 of 30, and 20 come; each of 20 and 12 alone is there
      [BOX, "32", "30", "20", "2", "2", "0", true],
      // bars: 100 + 60 = 160 of 100; the hives alone take just 100
      [BAR, "160", "100", "60", "60", "0", "0", true],
      // pins: 12 + 18 = 30 of 20
      [PIN, "30", "20", "0", "10", "10", "0", true],
      // tags: 7 of 12, and 5 stay
      [TAG, "7", "12", "0", "0", "0", "5", false],
    ]);
    expect(answer.parts[0]?.tooLate.map((c) => [c.key, show(c.quantity)])).toEqual([["P-8", "2"]]);
    // Everything is done when the hives are.
    expect(answer.finish).toBe("2026-12-11");
  });
  it("orders what nothing covers, as its supplier sells it: 10 pins, at least 6 in steps of 4, are 12", () => {
    expect(answer.orders.map((o) => [o.item, show(o.short), show(o.quantity), o.orderBy, o.for])).toEqual([
      [PIN, "10", "12", null, [{ demand: 3, quantity: decimal(10) }]],
    ]);
  });
});

describe("what decides a part's day", () => {
  const one = list([each(1, "1")]);
  const asked = (quantity: string, figures: SupplyFigures, more: Partial<Demand> = {}) =>
    cover([demand(1, 9, quantity, one, more)], supplies({ 1: figures }), TODAY).demands[0]?.parts[0];
  it.each([
    ["free stock: today", "5", { onHand: "5" }, TODAY],
    [
      "what comes, when the last of it is there",
      "8",
      {
        onHand: "5",
        incoming: [
          ["P-2", "2", "2026-12-04"],
          ["P-1", "2", "2026-12-01"],
        ],
      },
      "2026-12-04",
    ],
    ["what is overdue: today", "6", { onHand: "5", incoming: [["P-1", "2", "2026-11-20"]] }, TODAY],
    ["a fresh order", "6", { onHand: "5", offer: { leadDays: 4 } }, "2026-11-27"],
    [
      "a fresh order after what comes late",
      "9",
      { onHand: "5", incoming: [["P-1", "2", "2027-01-05"]], offer: { leadDays: 4 } },
      "2027-01-05",
    ],
    ["nobody: unknown", "6", { onHand: "5" }, null],
    ["a supplier who never said how long", "6", { onHand: "5", offer: {} }, null],
    ["what comes on no day: unknown", "6", { onHand: "5", incoming: [["B-3", "9", null]] }, null],
  ] as [string, string, SupplyFigures, string | null][])("is that of %s", (_, quantity, figures, day) => {
    expect(asked(quantity, figures)?.day).toBe(day);
  });
  it("marks what is overdue, and counts what comes until the start day, inclusive", () => {
    const figures: SupplyFigures = {
      incoming: [
        ["P-1", "2", "2026-11-20"],
        ["P-2", "3", "2026-11-30"],
        ["P-3", "4", "2026-12-01"],
      ],
    };
    const part = asked("9", figures, { day: "2026-12-02", buildDays: 2 });
    expect(part?.claims.map((c) => [c.key, c.day, c.overdue])).toEqual([
      ["P-1", TODAY, true],
      ["P-2", "2026-11-30", false],
      ["P-3", "2026-12-01", false],
    ]);
    expect([show(part?.shortNow ?? null), show(part?.shortOnDay ?? null)]).toEqual(["9", "4"]);
  });
  it("tells by when to order, late or not", () => {
    const part = (day: string) => asked("1", { offer: { leadDays: 9 } }, { day, buildDays: 2 })?.orderBy;
    expect([part("2026-12-20"), part("2026-11-25")]).toEqual(["2026-12-09", "2026-11-14"]);
  });
});

describe("turns", () => {
  const one = list([each(1, "1")]);
  it("go by day, then priority, then entry; undated last", () => {
    const wanted = [
      demand(1, 9, "1", one),
      demand(2, 9, "1", one, { day: "2026-12-02", priority: 2 }),
      demand(3, 9, "1", one, { day: "2026-12-02", priority: 1 }),
      demand(4, 9, "1", one, { day: "2026-12-01", priority: 3 }),
      demand(5, 9, "1", one),
    ];
    const shares = (onHand: string) =>
      cover(wanted, supplies({ 1: { onHand } }), TODAY)
        .demands.filter((d) => d.parts[0]?.fromFree.eq(1))
        .map((d) => d.demand.key);
    expect([shares("1"), shares("2"), shares("3"), shares("4")]).toEqual([
      [4],
      [3, 4],
      [2, 3, 4],
      [1, 2, 3, 4],
    ]);
  });
  it("fill a gap that was there before once, by the first that asks", () => {
    const answer = cover(
      [demand(1, 9, "10", one), demand(2, 9, "5", one)],
      supplies({ 1: { onHand: "40", reserved: "100", incoming: [["P-1", "72", "2026-12-01"]] } }),
      TODAY,
    );
    // 60 missing already and 10 more take 70 of the 72 that come; 2 are left for the 5 of the second
    expect(
      answer.demands.map((d) => [show(d.parts[0]?.shortNow ?? null), show(d.parts[0]?.uncovered ?? null)]),
    ).toEqual([
      ["70", "0"],
      ["5", "3"],
    ]);
    expect(show(answer.parts[0]?.shortNow ?? null)).toBe("75");
  });
});

describe("a short part that is built itself", () => {
  const [BOARD, FRAME, HIVE] = [1, 2, 3];
  const frame = list([each(BOARD, "4")]);
  const hive = list([each(FRAME, "20"), each(BOARD, "1")]);
  const supplyOf = supplies({
    [BOARD]: { onHand: "100", offer: { leadDays: 9, price: "0.50" } },
    [FRAME]: { onHand: "30", recipe: { list: frame, buildDays: 1 } },
  });
  const answer = cover([demand(1, HIVE, "3", hive, { day: "2026-12-20", buildDays: 2 })], supplyOf, TODAY);
  it("is built first, from the same supply, and its own parts count", () => {
    // 3 hives take 60 frames; 30 are there, 30 are built of 120 boards: 100 are there, 20 are ordered and come on 2 December.
    // The frames are done on 3 December; then the hives' own 3 boards are ordered too, and two days' work follow. The hives
    // claim their own boards first, so that 97 are there for frames: 24 can be made at once.
    expect(
      answer.builds.map((b) => [b.item, show(b.quantity), show(b.makesNow), b.finish, b.needed]),
    ).toEqual([[FRAME, "30", "24", "2026-12-03", "2026-12-18"]]);
    expect(answer.orders.map((o) => [o.item, show(o.short), o.orderBy])).toEqual([
      [BOARD, "23", "2026-12-08"],
    ]);
    expect(answer.finish).toBe("2026-12-05");
  });
  it("adds what it takes of a part to that part's row: 10 free, 3 for the product, 6 for the frames it lacks", () => {
    const found = cover(
      [demand(1, HIVE, "1", list([each(FRAME, "6"), each(BOARD, "3")]))],
      supplies({
        [FRAME]: { recipe: { list: list([each(BOARD, "1")]), buildDays: 1 } },
        [BOARD]: { onHand: "10" },
      }),
      TODAY,
    );
    const board = found.parts.find((p) => p.item === BOARD);
    expect([board?.need, board?.leftOver, board?.shortNow].map((q) => show(q ?? ZERO))).toEqual([
      "9",
      "1",
      "0",
    ]);
  });
  it("is less to build, and to order, by what stands on drafts", () => {
    const found = cover(
      [demand(1, HIVE, "20", list([each(FRAME, "1"), each(BOARD, "1")]))],
      supplies({
        [FRAME]: { recipe: { list: list([each(99, "1")]), buildDays: 1 }, drafts: [["B-9", null, "15"]] },
        [BOARD]: { offer: { firm: 3, minimum: "30" }, drafts: [["P-4", 3, "10"]] },
      }),
      TODAY,
    );
    expect(found.builds.map((b) => [show(b.short), show(b.quantity)])).toEqual([["20", "5"]]);
    const board = found.orders.find((o) => o.item === BOARD);
    expect([board?.short, board?.quantity].map((q) => show(q ?? ZERO))).toEqual(["20", "20"]);
  });
  it("is built by the list in force on the day its own build starts, never a day before today", () => {
    const [now, later] = [list([each(BOARD, "4")]), list([each(BOARD, "5")])];
    const boards = (day: string | null) => {
      const found = cover(
        [demand(1, HIVE, "1", list([each(FRAME, "1")]), { day, buildDays: 2 })],
        (item) => ({
          ...supply(),
          ...(item === FRAME && {
            recipe: { listOn: (start: string) => (start < "2026-12-05" ? now : later), buildDays: 1 },
          }),
        }),
        TODAY,
      );
      return show(found.orders.find((o) => o.item === BOARD)?.short ?? ZERO);
    };
    expect(["2026-12-07", "2026-12-08", "2026-11-01", null].map(boards)).toEqual(["4", "5", "4", "4"]);
  });
  it("is unknown where its list leads back to itself", () => {
    const ring = list([each(FRAME, "1")]);
    const found = cover(
      [demand(1, HIVE, "1", ring)],
      supplies({ [FRAME]: { recipe: { list: ring, buildDays: 1 } } }),
      TODAY,
    );
    expect([found.finish, found.orders[0]?.offer]).toEqual([null, null]);
  });
});

describe("solved the other way round", () => {
  const two = list([each(1, "2"), each(2, "1")]);
  const supplyOf = supplies({
    1: {
      onHand: "20",
      incoming: [["P-1", "10", "2026-12-01"]],
      offer: { leadDays: 12, price: "3.00", minimum: "10", multiple: "6" },
    },
    2: { onHand: "12", offer: { leadDays: 5, price: "1.25" } },
  });
  const of = (n: Decimal) =>
    cover([{ ...demand(1, 9, "1", two, { buildDays: 1 }), quantity: n }], supplyOf, TODAY);
  it("says how many could be finished by a day", () => {
    const by = (day: string) => show(mostThat({ decimals: 0 }, (n) => finishedBy(of(n), day)));
    // 10 with what is there; 12 when bars of the second part are no limit until an order comes; 15 with P-1; then all
    expect(["2026-11-23", "2026-11-24", "2026-11-28", "2026-12-02", "2026-12-06"].map(by)).toEqual([
      "0",
      "10",
      "10",
      "15",
      "no limit",
    ]);
  });
  it("says how many if at most so much is spent, in the quantities that are sold", () => {
    const within = (money: string) =>
      show(mostThat({ decimals: 0 }, (n) => affordable(of(n), decimal(money), 2)));
    // Up to 12 nothing is bought; 15 take 3 of the second (3.75); 16 take 2 more of the first too, sold as 12 (36.00 + 5.00)
    expect(["0", "3.75", "40.99", "41"].map(within)).toEqual(["12", "15", "15", "16"]);
    expect(show(spending(of(decimal(16)), 2))).toBe("41");
  });
  it("costs what the lines of the orders show, each to the cent", () => {
    const answer = cover(
      [demand(1, 9, "1", list([each(1, "1"), each(2, "1")]))],
      supplies({ 1: { offer: { price: "1.015" } }, 2: { offer: { price: "2.015" } } }),
      TODAY,
    );
    // 1.02 and 2.02; added before rounding they would be 3.03
    expect(show(spending(answer, 2))).toBe("3.04");
  });
  it("buys nothing where a price is not known", () => {
    const priceless = (n: Decimal) =>
      cover(
        [{ ...demand(1, 9, "1", list([each(1, "1")])), quantity: n }],
        supplies({ 1: { onHand: "3", offer: {} } }),
        TODAY,
      );
    expect(show(mostThat({ decimals: 0 }, (n) => affordable(priceless(n), decimal(1000), 2)))).toBe("3");
  });
});

describe("whatever is asked", () => {
  const PARTS = [1, 2, 3, 4];
  const day = fc.option(
    fc.integer({ min: -5, max: 40 }).map((n) => addDays(TODAY, n)),
    { nil: null },
  );
  const figures = fc.record({
    onHand: fc.integer({ min: 0, max: 60 }).map(String),
    reserved: fc.integer({ min: 0, max: 40 }).map(String),
    incoming: fc.array(fc.tuple(fc.uuid(), fc.integer({ min: 1, max: 30 }).map(String), day), {
      maxLength: 3,
    }),
    offer: fc.record({ leadDays: fc.integer({ min: 0, max: 15 }) }),
  });
  const supplied = fc.tuple(figures, figures, figures, figures);
  const lines = fc.uniqueArray(fc.tuple(fc.constantFrom(...PARTS), fc.integer({ min: 1, max: 4 })), {
    selector: ([part]) => part,
    minLength: 1,
  });
  const wanted = fc.array(
    fc.record({
      lines,
      quantity: fc.integer({ min: 1, max: 12 }),
      day,
      priority: fc.integer({ min: 1, max: 3 }),
      buildDays: fc.integer({ min: 0, max: 4 }),
    }),
    { minLength: 1, maxLength: 5 },
  );
  type Wanted = typeof wanted extends fc.Arbitrary<infer T> ? T : never;
  const demandsOf = (all: Wanted) =>
    all.map((w, i) =>
      demand(i, 100 + i, String(w.quantity), list(w.lines.map(([part, q]) => each(part, String(q)))), {
        day: w.day,
        priority: w.priority,
        buildDays: w.buildDays,
      }),
    );
  /** The fourth part is built of the first, so that builds of parts are tried too. */
  const supplyOf =
    (shelf: readonly SupplyFigures[]) =>
    (item: number): Supply => ({
      ...supply({
        ...shelf[item - 1],
        ...(item === 4 && { recipe: { list: list([each(1, "2")]), buildDays: 1 } }),
      }),
    });
  const given = (answer: Cover) => {
    const deep = (parts: readonly DemandPart[]): DemandPart[] =>
      parts.flatMap((p) => [p, ...(p.first ? deep(p.first.parts) : [])]);
    return deep(answer.demands.flatMap((d) => d.parts));
  };

  it("never gives more than there is, and accounts for every need", () => {
    fc.assert(
      fc.property(supplied, wanted, (shelf, all) => {
        const answer = cover(demandsOf(all), supplyOf(shelf), TODAY);
        for (const item of PARTS) {
          const { stock, incoming } = supplyOf(shelf)(item);
          const parts = given(answer).filter((p) => p.item === item);
          const freeQuantity = stock.onHand.minus(stock.reserved);
          expect(sum(parts.map((p) => p.fromFree)).lte(freeQuantity.gt(0) ? freeQuantity : ZERO)).toBe(true);
          for (const { key, quantity } of incoming)
            expect(
              sum(parts.flatMap((p) => p.claims.filter((c) => c.key === key).map((c) => c.quantity))).lte(
                quantity,
              ),
            ).toBe(true);
          const gap = freeQuantity.lt(0) && parts.length > 0 ? freeQuantity.times(-1) : ZERO;
          const all = sum(parts.map((p) => p.fromFree.plus(p.shortNow)));
          expect(all.toFixed()).toBe(
            sum(parts.map((p) => p.need))
              .plus(gap)
              .toFixed(),
          );
        }
      }),
      { numRuns: 300 },
    );
  });
  it("never leaves over and lacks the same part", () => {
    fc.assert(
      fc.property(supplied, wanted, (shelf, all) => {
        for (const part of cover(demandsOf(all), supplyOf(shelf), TODAY).parts)
          expect([part.leftOver.gt(0), part.shortNow.gt(0)]).not.toEqual([true, true]);
      }),
      { numRuns: 300 },
    );
  });
  it("promises its own parts alike in whatever order its list names them", () => {
    fc.assert(
      fc.property(supplied, wanted, (shelf, all) => {
        const promises = (of: Wanted) =>
          cover(demandsOf(of), supplyOf(shelf), TODAY).demands.map(({ parts }) =>
            parts
              .map((p) => `${p.item} ${p.fromFree} ${JSON.stringify(p.claims)} ${p.uncovered} ${p.reach}`)
              .sort(),
          );
        const [first, ...others] = all;
        const turned = first ? [{ ...first, lines: [...first.lines].reverse() }, ...others] : [];
        // Of the one whose list is turned, and of all where nothing is built first.
        expect(promises(turned.slice(0, 1))).toEqual(promises(all.slice(0, 1)));
      }),
      { numRuns: 300 },
    );
  });
  it("adding stock never lowers an answer", () => {
    fc.assert(
      fc.property(
        supplied,
        wanted,
        fc.constantFrom(...PARTS),
        fc.integer({ min: 1, max: 40 }),
        (shelf, all, item, more) => {
          const before = cover(demandsOf(all), supplyOf(shelf), TODAY);
          const richer = shelf.map((t, i) =>
            i === item - 1 ? { ...t, onHand: String(Number(t.onHand) + more) } : t,
          );
          const after = cover(demandsOf(all), supplyOf(richer), TODAY);
          for (const [i, then] of before.demands.entries()) {
            const now = after.demands[i];
            if (!now) throw new Error("an answer is missing");
            if (then.makesNow !== "no limit" && now.makesNow !== "no limit")
              expect(now.makesNow.gte(then.makesNow)).toBe(true);
          }
          for (const part of PARTS) {
            const uncovered = (answer: Cover) =>
              sum(given(answer).map((p) => (p.item === part ? p.uncovered : ZERO)));
            expect(uncovered(after).lte(uncovered(before))).toBe(true);
          }
        },
      ),
      { numRuns: 300 },
    );
  });
  // What comes later than a fresh order would be there is claimed all the same, and the fresh day is only shown beside it:
  // so a demand may finish later for more stock, when it is handed what another no longer claims. Else it never does.
  it("adding stock never lets anything be finished later, where nothing comes later than a fresh order", () => {
    const promptly = (shelf: readonly SupplyFigures[]) =>
      shelf.map((figures, i) => ({
        ...figures,
        incoming: (i === 3 ? [] : (figures.incoming ?? [])).map(
          ([key, quantity, on]): [string, string, string] => {
            const latest = addDays(TODAY, figures.offer?.leadDays ?? 0);
            return [key, quantity, on === null || on > latest ? latest : on];
          },
        ),
      }));
    fc.assert(
      fc.property(
        supplied,
        wanted,
        fc.constantFrom(...PARTS),
        fc.integer({ min: 1, max: 40 }),
        (figures, all, item, more) => {
          const shelf = promptly(figures);
          const richer = shelf.map((t, i) =>
            i === item - 1 ? { ...t, onHand: String(Number(t.onHand) + more) } : t,
          );
          const finishes = (of: readonly SupplyFigures[]) =>
            cover(demandsOf(all), supplyOf(of), TODAY).demands.map((d) => d.finish ?? "9999-12-31");
          const before = finishes(shelf);
          for (const [i, finish] of finishes(richer).entries())
            expect(finish <= (before[i] ?? "")).toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });
  it("nothing is finished before the day its last part is there", () => {
    fc.assert(
      fc.property(supplied, wanted, (shelf, all) => {
        for (const { parts, finish, demand: asked } of cover(demandsOf(all), supplyOf(shelf), TODAY)
          .demands) {
          if (finish === null) expect(parts.some((p) => p.day === null)).toBe(true);
          else
            for (const part of parts) expect(finish >= addDays(part.day ?? "", asked.buildDays)).toBe(true);
        }
      }),
      { numRuns: 300 },
    );
  });
});
