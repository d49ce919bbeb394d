import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { currencyDecimals, decimal, rateOf, sum } from "../amounts/index.ts";
import { NO_STOCK } from "../stock/index.ts";
import { costOfContents, priceOfContents, sharePrice } from "./kit.ts";
import { setsAvailable } from "./sets.ts";

const money = (price: string | null, quantity = "1", cost: string | null = null) => ({
  quantity: decimal(quantity),
  price: price === null ? null : rateOf(decimal(price)),
  cost: cost === null ? null : rateOf(decimal(cost)),
});

describe("kits (docs/rules.md § 7)", () => {
  const yard = ["164.00", "58.00", "14.50", "27.90", "9.60"].map((price) => money(price));
  it("share the price of KIT-YARD over its contents by list price", () => {
    expect(sharePrice(decimal("239.00"), yard, 2).map((share) => share.toFixed(2))).toEqual([
      "143.05",
      "50.59",
      "12.65",
      "24.34",
      "8.37",
    ]);
  });
  it("share by cost without any list price, else equally", () => {
    const by = (...contents: Parameters<typeof sharePrice>[1]) =>
      sharePrice(decimal(10), contents, 2).map((share) => share.toFixed(2));
    expect(by(money(null, "1", "3"), money(null, "2", "1"))).toEqual(["6.00", "4.00"]);
    expect(by(money(null), money(null), money(null))).toEqual(["3.34", "3.33", "3.33"]);
    // one that has no list price beside one that has gets nothing
    expect(by(money("5"), money(null, "1", "3"))).toEqual(["10.00", "0.00"]);
  });
  it("share in the currency's own decimals: JPY has none", () => {
    const contents = [money("300"), money("300"), money("400")];
    const shares = sharePrice(decimal(999), contents, currencyDecimals("JPY"));
    expect(shares.map((share) => share.toFixed())).toEqual(["300", "300", "399"]);
    expect([currencyDecimals("EUR"), currencyDecimals("KWD")]).toEqual([2, 3]);
  });
  it("share out the whole price, whatever it is", () => {
    const content = fc.record({ quantity: fc.integer({ min: 1, max: 9 }), price: fc.nat(9999) });
    fc.assert(
      fc.property(fc.nat(1_000_000), fc.array(content, { minLength: 1, maxLength: 8 }), (cents, contents) => {
        const price = decimal(`${cents}e-2`);
        const shares = sharePrice(
          price,
          contents.map((c) => money(`${c.price}e-2`, String(c.quantity))),
          2,
        );
        expect(sum(shares).eq(price)).toBe(true);
      }),
    );
  });
  it("take the sum of the prices less a percentage, unknown where one is", () => {
    expect(priceOfContents(yard, decimal(10), 2)?.toFixed(2)).toBe("246.60");
    expect(priceOfContents([...yard, money(null)], decimal(10), 2)).toBeNull();
    expect(priceOfContents([], decimal(0), 2)).toBeNull();
  });
  it("cost what their contents cost", () => {
    expect(costOfContents([money(null, "4", "2.90"), money(null, "1", "0.04")])?.toFixed(4)).toBe("11.6400");
    expect(costOfContents([money("1")])).toBeNull();
  });
  it("are available as whole sets, limited by what runs out first", () => {
    const free = (item: number) => ({ ...NO_STOCK, onHand: decimal(item === 1 ? "13" : "5") });
    const content = (item: number, quantity: string, stocked = true) => ({
      item,
      quantity: decimal(quantity),
      stocked,
    });
    const found = setsAvailable([content(1, "4"), content(2, "1"), content(3, "9", false)], free);
    expect([String(found.sets), found.limiting, found.each.map((n) => n?.toFixed() ?? null)]).toEqual([
      "3",
      [1],
      ["3", "5", null],
    ]);
    // the same content on two lines is one need
    expect(String(setsAvailable([content(1, "4"), content(1, "3")], free).sets)).toBe("1");
    // what limits nothing is no limit; a kit without contents has no set to sell
    expect(setsAvailable([content(3, "9", false)], free).sets).toBe("no limit");
    expect(String(setsAvailable([], free).sets)).toBe("0");
  });
});
