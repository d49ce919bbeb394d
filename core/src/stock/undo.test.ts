import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal } from "../amounts/index.ts";
import { EMPTY_STOCK, type Movement, mirrored, post, type StockState } from "./posting.ts";

const shelf = { location: 1, bin: "01-A" };

const other = { location: 2, bin: "" };

const move = (change: Partial<Movement>): Movement => ({
  item: 1,
  lot: "",
  serial: "",
  quantity: decimal(1),
  from: null,
  to: null,
  value: null,
  purpose: "moved",
  ...change,
});

const receipt = (quantity: number, value: string) =>
  move({ quantity: decimal(quantity), to: shelf, value: decimal(value) });

const issue = (quantity: number) => move({ quantity: decimal(quantity), from: shelf });

function posted(stock: StockState, movements: readonly Movement[]) {
  const done = post(stock, movements);
  if (!done.ok) throw new Error("it was refused");
  return done;
}

/** What is there, without what is empty, to compare states that differ in nothing else. */
const told = (stock: StockState) => ({
  balances: [...stock.balances]
    .filter(([, b]) => !b.quantity.eq(0))
    .map(([k, b]) => [k, b.quantity.toFixed()]),
  pools: [...stock.pools]
    .filter(([, p]) => !p.quantity.eq(0))
    .map(([k, p]) => [k, p.quantity.toFixed(), p.value.toFixed()]),
});

describe("taking a posting back", () => {
  it("mirrors it exactly: the same values, the other way", () => {
    const first = posted(EMPTY_STOCK, [receipt(3, "10")]);
    const second = posted(first.stock, [issue(1), move({ quantity: decimal(1), from: shelf, to: other })]);
    expect(second.movements.map((m) => m.value.toFixed())).toEqual(["3.3333", "0"]);
    const back = posted(second.stock, mirrored(second.movements));
    expect(told(back.stock)).toEqual(told(first.stock));
  });
  it("is refused where stock has left the spot", () => {
    const first = posted(EMPTY_STOCK, [receipt(3, "10")]);
    const second = posted(first.stock, [issue(1)]);
    expect(post(second.stock, mirrored(first.movements))).toMatchObject({
      ok: false,
      shortages: [{ item: 1 }],
    });
  });
  it("is refused where a pool would keep value without quantity, or fall below zero in value", () => {
    // a dear piece is averaged with cheap ones; what is left is worth less than it was
    const cheap = posted(EMPTY_STOCK, [receipt(9, "9")]);
    const dear = posted(cheap.stock, [receipt(1, "91")]);
    const used = posted(dear.stock, [issue(9)]);
    expect(told(used.stock).pools).toEqual([[expect.any(String), "1", "10"]]);
    expect(post(used.stock, mirrored(dear.movements))).toMatchObject({
      ok: false,
      shortages: [],
      unbalanced: [{ item: 1 }],
    });
    // and the other way: nothing would be left, but worth something
    const other = posted(dear.stock, [issue(1)]);
    const emptied = post(other.stock, mirrored(cheap.movements));
    expect(emptied).toMatchObject({ ok: false });
  });
  it("after any movements restores what was there, whatever it was", () => {
    const step = fc.oneof(
      fc
        .record({ quantity: fc.integer({ min: 1, max: 9 }), value: fc.integer({ min: 0, max: 99_999 }) })
        .map((r) => receipt(r.quantity, `${r.value}e-4`)),
      fc.integer({ min: 1, max: 6 }).map(issue),
      fc.integer({ min: 1, max: 6 }).map((n) => move({ quantity: decimal(n), from: shelf, to: other })),
    );
    fc.assert(
      fc.property(
        fc.array(step, { maxLength: 6 }),
        fc.array(step, { minLength: 1, maxLength: 4 }),
        (before, last) => {
          const there = before.reduce<StockState>((stock, movement) => {
            const done = post(stock, [movement]);
            return done.ok ? done.stock : stock;
          }, EMPTY_STOCK);
          const done = post(there, last);
          if (!done.ok) return;
          const back = post(done.stock, mirrored(done.movements));
          expect(back.ok && told(back.stock)).toEqual(told(there));
        },
      ),
    );
  });
});
