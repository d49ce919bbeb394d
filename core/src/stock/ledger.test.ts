import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, type Day, decimal, ZERO } from "../amounts/index.ts";
import { firstDayFor } from "./backdating.ts";
import { added, countEntries, imbalance, lost, mirroredEntries, priceCorrection } from "./balance.ts";
import { buildOwner, type Owner } from "./owner.ts";
import {
  EMPTY_STOCK,
  issueValue,
  type Movement,
  mirrored,
  poolOf,
  post,
  type StockState,
} from "./posting.ts";
import { mayComeIn, PURPOSES, type Purpose } from "./purpose.ts";

const SHELF = { location: 1, bin: "01-A" };

const KEY = { item: 1, lot: "", serial: "" };

const movement = (purpose: Purpose, change: Partial<Movement>): Movement => ({
  ...KEY,
  purpose,
  quantity: decimal(1),
  from: null,
  to: null,
  value: null,
  ...change,
});

const bought = (quantity: string, value: string) =>
  movement("bought", { quantity: decimal(quantity), to: SHELF, value: decimal(value) });

function posted(stock: StockState, ...movements: Movement[]) {
  const done = post(stock, movements);
  if (!done.ok) throw new Error("it was refused");
  return done;
}

describe("owners (docs/rules.md § 9)", () => {
  const owners: Owner[] = [buildOwner(3), { kind: "rework", id: 3 }, { kind: "build", id: 4 }];
  it("keep stock and value apart, also where kind or id alone is the same", () => {
    const stock = owners.reduce(
      (before, owner) =>
        posted(before, movement("handed out", { from: SHELF, to: { location: 2, bin: "", owner } })).stock,
      posted(EMPTY_STOCK, bought("4", "8")).stock,
    );
    for (const owner of [...owners, undefined])
      expect(poolOf(stock.pools, KEY, owner)).toMatchObject({ quantity: decimal(1), value: decimal(2) });
  });
  it("a customer's own unit is worth nothing to us: a value on it is refused", () => {
    const owner: Owner = { kind: "customer", id: 9 };
    const comes = (value: string) => movement("returned", { to: { ...SHELF, owner }, value: decimal(value) });
    const { stock } = posted(EMPTY_STOCK, bought("1", "8"), comes("0"));
    expect(poolOf(stock.pools, KEY, undefined).value.toFixed()).toBe("8");
    expect(() => post(EMPTY_STOCK, [comes("1")])).toThrow(RangeError);
  });
});

describe("value alone (docs/rules.md § 5)", () => {
  const put = (value: string, up: boolean) =>
    movement("corrected", {
      quantity: ZERO,
      value: decimal(value),
      from: up ? null : SHELF,
      to: up ? SHELF : null,
    });
  it("changes what stock is worth, not how much there is", () => {
    const { stock } = posted(EMPTY_STOCK, bought("3", "10"), put("2", true), put("0.5", false));
    expect(poolOf(stock.pools, KEY, undefined)).toMatchObject({
      quantity: decimal(3),
      value: decimal("11.5"),
    });
  });
  it("is refused where nothing is left to carry it, and where it carries neither", () => {
    expect(post(EMPTY_STOCK, [put("2", true)])).toMatchObject({ ok: false });
    expect(() => post(EMPTY_STOCK, [put("0", true)])).toThrow(RangeError);
  });
  it("a receipt's price put right: 10 received, 4 on hand, 1.00 more each → 4.00 to stock, 6.00 a price difference", () => {
    const told = (difference: string, onHand: string, received: string, value = "99") => {
      const own = { quantity: decimal(onHand), value: decimal(value) };
      const { pool, rest } = priceCorrection(decimal(difference), own, decimal(received));
      return [pool.toFixed(), rest.toFixed()];
    };
    expect(told("10", "4", "10")).toEqual(["4", "6"]);
    expect(told("-10", "25", "10")).toEqual(["-10", "0"]);
    expect(told("1", "1", "3")).toEqual(["0.3333", "0.6667"]);
    expect(told("5", "0", "3")).toEqual(["0", "5"]);
    expect(told("-80", "2", "10", "10")).toEqual(["-10", "-70"]);
  });
});

describe("every posting balances (docs/rules.md § 9)", () => {
  const value = (amount: string) => ({ value: decimal(amount) });
  const at = { from: SHELF, to: null };
  const comes = { from: null, to: SHELF };
  it("FEED-12: parts, work and overhead against the units that come of them, to the last digit", () => {
    const parts = ["339.39", "8.80", "42.00", "2.52", "0.05"].map((v) => ({
      purpose: "used" as const,
      ...at,
      ...value(v),
    }));
    const units = { purpose: "built" as const, ...comes, ...value("411.76") };
    const costs = [...added("work", decimal("16")), ...added("overhead", decimal("3"))];
    expect(imbalance([...parts, units], costs).toFixed()).toBe("0");
    expect(imbalance([...parts, units], costs.slice(1)).toFixed()).toBe("-16");
    expect(imbalance(parts, [...costs, ...lost("rejected", decimal("411.76"), "burnt")]).toFixed()).toBe("0");
  });
  it("what comes from outside or goes there needs nothing beside it; what a count finds or misses does", () => {
    const outside = (["opening", "bought", "shipped", "sent back", "corrected", "returned"] as const).map(
      (purpose) => ({ purpose, ...comes, ...value("7") }),
    );
    expect(imbalance(outside, []).toFixed()).toBe("0");
    const counts = [
      { purpose: "counted" as const, ...comes, ...value("3"), reason: "behind the door" },
      { purpose: "counted" as const, ...at, ...value("2"), reason: "broken" },
    ];
    expect(imbalance(counts, []).toFixed()).toBe("-1");
    expect(countEntries(counts)).toEqual([
      { side: "added", what: "found by a count", value: decimal(3), reason: "behind the door" },
      { side: "lost", what: "count down", value: decimal(2), reason: "broken" },
    ]);
    expect(imbalance(counts, countEntries(counts)).toFixed()).toBe("0");
  });
  it("so does its undo", () => {
    const { stock } = posted(EMPTY_STOCK, bought("3", "10"));
    const { movements } = posted(
      stock,
      movement("used", { quantity: decimal(2), from: SHELF }),
      movement("built", {
        item: 2,
        to: SHELF,
        value: issueValue({ quantity: decimal(3), value: decimal(10) }, decimal(2)).plus(5),
      }),
    );
    const entries = added("work", decimal(5));
    expect(imbalance(movements, entries).toFixed()).toBe("0");
    const back = mirrored(movements).map((m) => ({ ...m, value: m.value ?? ZERO }));
    expect(imbalance(back, mirroredEntries(entries)).toFixed()).toBe("0");
  });
});

describe("the life of a serial number (docs/rules.md § 8)", () => {
  it("comes in once, and again only from where its purpose brings it", () => {
    for (const purpose of ["opening", "bought", "built", "counted"] as const)
      expect(mayComeIn(null, purpose)).toBe(true);
    const allowed = (Object.keys(PURPOSES) as Purpose[]).flatMap((purpose) =>
      Object.values(PURPOSES).flatMap(({ gone }) =>
        gone !== null && mayComeIn(gone, purpose) ? [`${purpose}: ${gone}`] : [],
      ),
    );
    expect(allowed.sort()).toEqual([
      "bought: back with its supplier",
      "converted: another item",
      "counted: counted away",
      "recovered: inside a unit",
      "returned: with a customer",
    ]);
  });
});

describe("dating back (docs/rules.md § 9)", () => {
  const changes = (...rows: [Day, number][]) => rows.map(([day, n]) => ({ day, change: decimal(n) }));
  const first = (rows: [Day, number][], quantity: number, day: Day) =>
    firstDayFor(changes(...rows), decimal(quantity), day);
  it("works from the day on which the goods had come, and were not gone meanwhile", () => {
    const history: [Day, number][] = [
      ["2026-11-10", 5],
      ["2026-11-15", -5],
      ["2026-11-20", 8],
    ];
    expect(first(history, 5, "2026-11-21")).toBe("2026-11-21");
    expect(first(history, 5, "2026-11-12")).toBe("2026-11-20");
    expect(first(history, 9, "2026-11-12")).toBe("2026-11-20");
    expect(first([["2026-11-10", 5]], 5, "2026-11-01")).toBe("2026-11-10");
    expect(first([["2026-11-10", 5]], 5, "2026-11-10")).toBe("2026-11-10");
  });
  it("a day that is below zero in old books refuses nothing", () => {
    const history: [Day, number][] = [
      ["2026-11-02", -5],
      ["2026-11-20", 25],
    ];
    expect(first(history, 3, "2026-11-03")).toBe("2026-11-03");
  });
  it("never leaves a day below zero that was not, and gives the earliest such day", () => {
    const day = fc.integer({ min: 0, max: 8 }).map((n) => addDays("2026-11-01", n));
    const history = fc.array(fc.tuple(day, fc.integer({ min: -4, max: 6 })), { maxLength: 8 });
    fc.assert(
      fc.property(history, fc.integer({ min: 1, max: 6 }), day, (rows, quantity, wanted) => {
        const all = changes(...rows);
        const held = (end: Day) => rows.reduce((n, [d, change]) => (d <= end ? n + change : n), 0);
        const now = held("2026-12-01");
        fc.pre(now >= quantity);
        const works = (from: Day) =>
          Array.from({ length: 12 }, (_, n) => addDays("2026-11-01", n)).every(
            (d) => d < from || held(d) < 0 || held(d) >= quantity,
          );
        const found = firstDayFor(all, decimal(quantity), wanted);
        expect(found >= wanted && works(found)).toBe(true);
        expect(found === wanted || !works(addDays(found, -1))).toBe(true);
      }),
    );
  });
});
