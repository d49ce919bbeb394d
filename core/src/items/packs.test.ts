import { describe, expect, it } from "vitest";
import { type Decimal, decimal, numberMarks, rateOf, SHIPPED_UNITS, valueAt } from "../amounts/index.ts";
import { unitOf } from "../testing/scenario.ts";
import { lacks } from "./item.ts";
import { parseQuantity, pricedQuantity } from "./packs.ts";

describe("prices per unit or pack (docs/rules.md § 1)", () => {
  const units = new Map(SHIPPED_UNITS.map((u) => [u.code, u]));
  const of = (per: string, stock: string, packs: { name: string; quantity: Decimal }[] = []) =>
    pricedQuantity(per, units.get(stock), units.values(), packs)?.toFixed() ?? null;
  it("are kept as they are said: 0.85 per kg of what is kept in grams, 14.00 per sack of 25 kg", () => {
    expect([of("kg", "g"), of("", "g"), of("g", "kg"), of("L", "kg")]).toEqual(["1000", "1", "0.001", null]);
    expect(valueAt(decimal(25_000), rateOf(decimal("0.85"), decimal(1000)), 2).toFixed(2)).toBe("21.25");
    const sack = of("sack", "kg", [{ name: "sack", quantity: decimal(25) }]);
    expect(valueAt(decimal(10), rateOf(decimal("14.00"), decimal(sack ?? 0)), 2).toFixed(2)).toBe("5.60");
  });
  it("are said for a unit or pack, never for a figure, which would be read on: 3 as 13", () => {
    const packs = [{ name: "6-pack", quantity: decimal(6) }];
    expect(["3", "3.5", "2 boxes", "-", "6-pack"].map((per) => of(per, "pc", packs))).toEqual([
      null,
      null,
      null,
      null,
      "6",
    ]);
  });
  it("round once, half away from zero, at the end", () => {
    expect(valueAt(decimal(3), rateOf(decimal(10), decimal(3)), 2).toFixed(2)).toBe("10.00");
    expect(valueAt(decimal(-1), rateOf(decimal("0.005")), 2).toFixed(2)).toBe("-0.01");
  });
});

describe("a quantity as it is typed", () => {
  const packs = [
    { name: "box", quantity: decimal(200) },
    { name: "kg", quantity: decimal(3) },
  ];
  const read = (text: string, stock = "pc", locale = "en-GB") =>
    parseQuantity(text, numberMarks(locale), unitOf(stock), SHIPPED_UNITS, packs);
  it.each([
    ["12", "pc", "12"],
    ["2 box", "pc", "400"],
    ["2 Boxes", "pc", "400"],
    ["1.5box", "pc", "300"],
    ["3 dozen", "pc", "36"],
    ["250 g", "kg", "0.25"],
    ["40 mL", "L", "0.04"],
    ["2 metres", "cm", "200"],
    // a pack of the item goes before a unit of the same name
    ["2 kg", "kg", "6"],
    ["2 crates", "pc", null],
    ["2 L", "pc", null],
    // a third of an hour would have to be rounded
    ["20 min", "hour", null],
    ["box", "pc", null],
  ])("%s of what is kept in %s", (text, stock, plain) => {
    expect(read(text, stock)).toBe(plain);
  });
  it("is read in the person's language", () => {
    expect(read("1,5 kg", "g", "de-DE")).toBe("4.5");
    expect(read("1.500 g", "kg", "de-DE")).toBe("1.5");
  });
});

describe("what an item lacks", () => {
  const item = (change: Partial<Parameters<typeof lacks>[0]>) =>
    lacks({
      kind: "bought",
      state: "active",
      hasCost: false,
      hasSupplier: false,
      hasList: false,
      hasPrice: false,
      ...change,
    });
  it("depends on what it is", () => {
    expect(item({})).toEqual(["cost", "supplier"]);
    expect(item({ state: "phasing out", hasCost: true })).toEqual([]);
    expect(item({ kind: "built" })).toEqual(["list"]);
    expect(item({ kind: "built", hasList: true })).toEqual(["cost"]);
    expect(item({ kind: "kit" })).toEqual(["contents", "price"]);
    expect(item({ kind: "kit", hasList: true, hasPrice: true })).toEqual([]);
    expect(item({ kind: "service" })).toEqual(["rate"]);
    expect(item({ state: "archived" })).toEqual([]);
  });
});
