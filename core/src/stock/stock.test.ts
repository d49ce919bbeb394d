import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal, rateOf, SHIPPED_UNITS, sum, ZERO } from "../amounts/index.ts";
import type { KnownItem } from "../items/index.ts";
import { checkStock, type StockRow } from "./importing.ts";
import { EMPTY_STOCK, type Movement, poolKey, post, type StockState } from "./posting.ts";
import { type PickableStock, take } from "./taking.ts";

const shelf = { location: 1, bin: "01-A" };

const yard = { location: 2, bin: "" };

const receive = (quantity: string, value: string, item = 1, lot = ""): Movement => ({
  purpose: "bought",
  item,
  lot,
  serial: "",
  quantity: decimal(quantity),
  from: null,
  to: shelf,
  value: decimal(value),
});

const issue = (quantity: string, item = 1, lot = ""): Movement => ({
  ...receive(quantity, "0", item, lot),
  purpose: "used",
  from: shelf,
  to: null,
  value: null,
});

const transfer = (quantity: string): Movement => ({ ...issue(quantity), to: yard });

function posted(stock: StockState, ...movements: Movement[]) {
  const result = post(stock, movements);
  if (!result.ok) throw new Error("refused");
  return result;
}

describe("posting", () => {
  it("issues three pieces worth 10.0000 as 3.3333, 3.3334, 3.3333", () => {
    const { movements, stock } = posted(EMPTY_STOCK, receive("3", "10"), issue("1"), issue("1"), issue("1"));
    expect(movements.slice(1).map((m) => m.value.toFixed(4))).toEqual(["3.3333", "3.3334", "3.3333"]);
    expect([...stock.pools.values()].map((p) => [p.quantity.toFixed(), p.value.toFixed()])).toEqual([
      ["0", "0"],
    ]);
  });
  it("moves between places without touching value", () => {
    const { movements, stock } = posted(EMPTY_STOCK, receive("3", "10"), transfer("2"));
    expect(movements[1]?.value.toFixed()).toBe("0");
    expect([...stock.balances.values()].map((b) => b.quantity.toFixed())).toEqual(["1", "2"]);
    expect([...stock.pools.values()].map((p) => p.value.toFixed())).toEqual(["10"]);
  });
  it("refuses all of a posting where one line takes too much, and says what is there", () => {
    const start = posted(EMPTY_STOCK, receive("3", "10"), receive("5", "5", 2)).stock;
    const result = post(start, [issue("2", 2), issue("2"), issue("2")]);
    expect(
      result.ok ? null : result.shortages.map((s) => [s.item, s.there.toFixed(), s.wanted.toFixed()]),
    ).toEqual([[1, "1", "2"]]);
    expect(start.pools.get(poolKey({ item: 2, lot: "", serial: "" }))?.quantity.toFixed()).toBe("5");
  });
  it("keeps lots apart", () => {
    const start = posted(EMPTY_STOCK, receive("1", "2", 1, "A"), receive("1", "8", 1, "B")).stock;
    expect(posted(start, issue("1", 1, "B")).movements[0]?.value.toFixed()).toBe("8");
    expect(post(start, [issue("1")]).ok).toBe(false);
  });
  it("conserves value and never goes below zero over any sequence of receipts, issues and moves", () => {
    const step = fc.record({
      kind: fc.constantFrom("receive", "issue", "move"),
      item: fc.constantFrom(1, 2),
      quantity: fc.integer({ min: 1, max: 5000 }),
      value: fc.integer({ min: 0, max: 10_000_000 }),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
        let stock = EMPTY_STOCK;
        let brought = ZERO;
        let taken = ZERO;
        for (const s of steps) {
          const quantity = `${s.quantity}e-3`;
          const movement =
            s.kind === "receive"
              ? receive(quantity, `${s.value}e-4`, s.item)
              : { ...issue(quantity, s.item), ...(s.kind === "move" && { to: yard }) };
          const result = post(stock, [movement]);
          if (!result.ok) continue;
          stock = result.stock;
          if (s.kind === "receive") brought = brought.plus(sum(result.movements.map((m) => m.value)));
          if (s.kind === "issue") taken = taken.plus(sum(result.movements.map((m) => m.value)));
        }
        const pools = [...stock.pools.values()];
        expect(sum(pools.map((p) => p.value)).eq(brought.minus(taken))).toBe(true);
        expect([...stock.balances.values()].every((b) => b.quantity.gte(0))).toBe(true);
        expect(pools.every((p) => p.value.gte(0) && (p.quantity.gt(0) || p.value.eq(0)))).toBe(true);
        for (const pool of pools) {
          const lying = [...stock.balances.values()]
            .filter((b) => b.item === pool.item)
            .map((b) => b.quantity);
          expect(sum(lying).eq(pool.quantity)).toBe(true);
        }
      }),
    );
  });
});

describe("taking in the suggested order (docs/rules.md § 8)", () => {
  const lot = (code: string, quantity: string, more: Partial<PickableStock> = {}): PickableStock => ({
    item: 1,
    lot: code,
    serial: "",
    location: 1,
    bin: "01-A",
    quantity: decimal(quantity),
    expiry: null,
    received: "2026-01-01",
    home: false,
    ...more,
  });
  const lots = () => [
    lot("E", "5"),
    lot("D", "5", { received: "2025-06-01" }),
    lot("C", "5", { expiry: "2026-12-31" }),
    lot("B", "5", { expiry: "2026-11-23" }),
    lot("A", "5", { expiry: "2026-11-22" }),
  ];
  it("takes the earliest expiry first, without expiry last, expired never", () => {
    const of = (quantity: number, ...only: string[]) =>
      take(lots(), { item: 1, quantity: decimal(quantity), only }, "2026-11-23").map(
        (t) => `${t.lot} ${t.quantity}`,
      );
    expect(of(18)).toEqual(["B 5", "C 5", "D 5", "E 3"]);
    expect(of(21)).toEqual(["B 5", "C 5", "D 5", "E 5"]);
    expect(of(7, "E", "C", "A")).toEqual(["E 5", "C 2"]);
  });
  it("empties the home bin first and leaves the rest for the next line", () => {
    const bins = [lot("", "5", { bin: "09-A" }), lot("", "5", { bin: "12-D", home: true })];
    const of = (quantity: number) =>
      take(bins, { item: 1, quantity: decimal(quantity), only: [] }, "2026-11-23").map(
        (t) => `${t.from.bin} ${t.quantity}`,
      );
    expect(of(6)).toEqual(["12-D 5", "09-A 1"]);
    expect(of(5)).toEqual(["09-A 4"]);
  });
  it("empties the store that its line names before any other, whatever lies elsewhere", () => {
    const bins = () => [
      lot("", "5", { bin: "12-D", home: true }),
      lot("", "3", { location: 2, bin: "Y1-A" }),
      lot("", "2", { location: 2, bin: "Y1-B", received: "2025-01-01" }),
    ];
    const of = (store: number | null, ...only: string[]) =>
      take(bins(), { item: 1, quantity: decimal(6), only, store }, "2026-11-23").map(
        (t) => `${t.from.bin} ${t.quantity}`,
      );
    expect(of(2)).toEqual(["Y1-B 2", "Y1-A 3", "12-D 1"]);
    expect(of(null)).toEqual(["Y1-B 2", "12-D 4"]);
    expect(of(9)).toEqual(["Y1-B 2", "12-D 4"]);
  });
});

describe("checking stock that comes in", () => {
  const units = new Map(SHIPPED_UNITS.map((u) => [u.code, u]));
  const item = (code: string, more: Partial<KnownItem> = {}): [string, KnownItem] => [
    code,
    {
      code,
      kind: "bought",
      tracking: "none",
      unit: "pc",
      cost: rateOf(decimal(2)),
      barcode: "",
      state: "active" as const,
      notStockTracked: false,
      inUse: null,
      packs: [],
      hasStock: false,
      parts: null,
      ...more,
    },
  ];
  const known = new Map([
    item("BOX-D"),
    item("OLD-1", { hasStock: true }),
    item("FREE-1", { cost: null }),
    item("SYR-72", { tracking: "lot", unit: "L" }),
    item("SCL-E", { tracking: "serial" }),
    item("LAB-B", { kind: "service", unit: "hour" }),
  ]);
  const there = {
    expiryOf: () => undefined,
    serialAt: (_: string, serial: string) => (serial === "S-1" ? "in Yard" : null),
  };
  const row = (r: Partial<StockRow>): StockRow => ({
    row: 2,
    item: "BOX-D",
    store: "Yard",
    bin: "",
    quantity: decimal(1),
    unitCost: null,
    costPer: "",
    lot: "",
    expiry: null,
    serial: "",
    ...r,
  });
  const codes = (...rows: StockRow[]) =>
    checkStock(rows, known, units, there, true).problems.map((p) => `${p.field} ${p.code}`);
  it("takes the standard cost where none is given", () => {
    expect(checkStock([row({})], known, units, there, true).good[0]?.unitCost.amount.toFixed()).toBe("2");
  });
  it.each([
    ["an unknown item", { item: "NONE" }, "item item-unknown"],
    ["work", { item: "LAB-B" }, "item not-stocked"],
    ["an item with movements", { item: "OLD-1" }, "item has-stock"],
    ["half a piece", { quantity: decimal("0.5") }, "quantity decimals"],
    ["no cost at all", { item: "FREE-1" }, "unit_cost cost-needed"],
    ["no lot", { item: "SYR-72" }, "lot lot-needed"],
    ["a lot where none is kept", { lot: "A" }, "lot lot-not-tracked"],
    ["an expiry without a lot", { expiry: "2027-01-01" }, "expiry expiry-without-lot"],
    ["no serial", { item: "SCL-E" }, "serial serial-needed"],
    ["a serial where none is kept", { serial: "S-9" }, "serial serial-not-tracked"],
    ["two of one serial", { item: "SCL-E", serial: "S-9", quantity: decimal(2) }, "quantity serial-one"],
    ["a serial in use", { item: "SCL-E", serial: "S-1" }, "serial serial-taken"],
  ])("refuses %s", (_, change, problem) => {
    expect(codes(row(change))).toEqual([problem]);
  });
  it("refuses one lot with two expiry days, and one serial twice", () => {
    const lot = { item: "SYR-72", lot: "HS-1" };
    expect(codes(row({ ...lot, expiry: "2027-01-01" }), row({ ...lot, expiry: "2027-02-01" }))).toEqual([
      "expiry expiry-differs",
    ]);
    expect(codes(row({ item: "SCL-E", serial: "S-2" }), row({ item: "SCL-E", serial: "S-2" }))).toEqual([
      "serial serial-taken",
    ]);
  });
});
