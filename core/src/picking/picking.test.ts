import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal, sum, ZERO } from "../amounts/index.ts";
import type { PickableStock } from "../stock/index.ts";
import { byPickTurn, type PickDocument, type PickLine } from "./documents.ts";
import { dealFetched, stopsOf, suggestHolds, withoutHeld } from "./holds.ts";

const DAY = "2026-11-23";
const order = (id: number, due: string | null = null): PickDocument => ({
  kind: "order",
  id,
  number: `O-${id}`,
  due,
});
const build = (id: number, due: string | null = null): PickDocument => ({
  kind: "build",
  id,
  number: `B-${id}`,
  due,
});
const line = (document: PickDocument, quantity: number, more: Partial<PickLine> = {}): PickLine => ({
  document,
  line: 1,
  item: 1,
  quantity: decimal(quantity),
  only: [],
  store: null,
  ...more,
});
const stock = (bin: string, quantity: number, more: Partial<PickableStock> = {}): PickableStock => ({
  item: 1,
  lot: "",
  serial: "",
  location: 1,
  bin,
  quantity: decimal(quantity),
  expiry: null,
  received: "2026-11-01",
  home: false,
  ...more,
});
const shown = (holds: readonly { from: { bin: string }; lot: string; quantity: { toFixed(): string } }[]) =>
  holds.map(({ from, lot, quantity }) => `${from.bin} ${lot} ${quantity.toFixed()}`);

describe("what was fetched", () => {
  it("is dealt out in turn: 5, 4 and 6 wanted, 12 fetched", () => {
    const dealt = dealFetched([5, 4, 6].map(decimal), decimal(12));
    expect(dealt.map(Number)).toEqual([5, 4, 3]);
  });
  it("goes by due day, undated last, then orders before builds, then number", () => {
    const documents = [
      build(2),
      order(10, "2026-12-01"),
      build(1, "2026-12-01"),
      order(9, "2026-12-01"),
      order(3),
      build(7, "2026-11-30"),
    ];
    expect(documents.sort(byPickTurn).map(({ number }) => number)).toEqual([
      "B-7",
      "O-9",
      "O-10",
      "B-1",
      "O-3",
      "B-2",
    ]);
  });
  it("is dealt out exactly, never more than is wanted", () => {
    const wanted = fc.array(fc.nat(100), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(wanted, fc.nat(400), (each, fetched) => {
        const most = Math.min(
          fetched,
          each.reduce((n, one) => n + one, 0),
        );
        const dealt = dealFetched(each.map(decimal), decimal(most)).map(Number);
        expect(dealt.reduce((n, one) => n + one, 0)).toBe(most);
        for (const [i, one] of dealt.entries()) expect(one).toBeLessThanOrEqual(each[i] ?? 0);
      }),
    );
  });
});

describe("where lines are sent", () => {
  it("is the earliest expiry first, then bins in walk order, never an expired lot", () => {
    const ready = [
      stock("02", 3, { lot: "B", expiry: "2026-12-30" }),
      stock("01", 3, { lot: "OLD", expiry: "2026-11-22" }),
      stock("09", 2, { lot: "A", expiry: "2026-12-01", walk: 2 }),
      stock("08", 2, { lot: "A", expiry: "2026-12-01", walk: 7 }),
    ];
    const [held] = suggestHolds([line(order(1), 6)], ready, DAY);
    expect(shown(held?.holds ?? [])).toEqual(["09 A 2", "08 A 2", "02 B 2"]);
    const [all] = suggestHolds([line(order(1), 9)], ready, DAY);
    expect(all?.short.toFixed()).toBe("2");
  });
  it("is other pieces than those held for somebody else", () => {
    const ready = [stock("01", 3), stock("02", 3)];
    const [first] = suggestHolds([line(order(1), 2)], ready, DAY);
    const [second] = suggestHolds([line(build(1), 3)], withoutHeld(ready, first?.holds ?? []), DAY);
    expect(shown(second?.holds ?? [])).toEqual(["01  1", "02  2"]);
  });
  it("adds up lines of the same item, lot and bin to one stop, in walk order", () => {
    const ready = [stock("02", 9), stock("01", 4, { item: 2, walk: 9 })];
    const lines = [
      line(build(1, "2026-11-30"), 4),
      line(order(1, "2026-11-29"), 5),
      line(order(2), 1, { item: 2 }),
    ];
    const holds = suggestHolds(lines, ready, DAY).flatMap((held) => held.holds);
    const stops = stopsOf(holds, ({ item }) => (item === 2 ? 9 : null));
    expect(stops.map((stop) => `${stop.from.bin} ${stop.quantity.toFixed()}`)).toEqual(["01 1", "02 9"]);
    expect(stops[1]?.holds.map(({ document }) => document.number)).toEqual(["O-1", "B-1"]);
  });
  it("holds no piece twice, and no more than a line wants", () => {
    const piece = fc.record({
      item: fc.integer({ min: 1, max: 2 }),
      bin: fc.constantFrom("01", "02", "03"),
      lot: fc.constantFrom("A", "B"),
      quantity: fc.nat(9),
    });
    const wants = fc.array(
      fc.record({ item: fc.integer({ min: 1, max: 2 }), quantity: fc.integer({ min: 1, max: 9 }) }),
      {
        maxLength: 8,
      },
    );
    const pieces = fc.uniqueArray(piece, { selector: ({ item, bin, lot }) => `${item} ${bin} ${lot}` });
    fc.assert(
      fc.property(pieces, wants, (there, wanted) => {
        const ready = there.map(({ quantity, bin, ...key }) => stock(bin, quantity, key));
        const lines = wanted.map(({ item, quantity }, i) => line(order(i + 1), quantity, { item }));
        const held = suggestHolds(lines, ready, DAY);
        for (const { line: own, holds, short } of held)
          expect(
            sum(holds.map(({ quantity }) => quantity))
              .plus(short)
              .eq(own.quantity),
          ).toBe(true);
        const left = withoutHeld(
          ready,
          held.flatMap(({ holds }) => holds),
        );
        const rest = sum(ready.map(({ quantity }) => quantity)).minus(
          sum(left.map(({ quantity }) => quantity)),
        );
        expect(rest.eq(sum(held.flatMap(({ holds }) => holds).map(({ quantity }) => quantity)))).toBe(true);
        // Where something is short, nothing of it is left for it.
        for (const { line: own, short } of held)
          if (short.gt(ZERO)) expect(left.some(({ item }) => item === own.item)).toBe(false);
      }),
    );
  });
});
