import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  currencyDecimals,
  type Decimal,
  decimal,
  numberMarks,
  rateOf,
  SHIPPED_UNITS,
  sum,
  valueAt,
} from "../amounts/index.ts";
import { NO_STOCK, setsAvailable } from "../cover/index.ts";
import { FEED, FEED_COSTS, unitOf } from "../testing/scenario.ts";
import {
  checkKits,
  checkSuppliers,
  costOfContents,
  type Facts,
  isBelow,
  type KitRow,
  type KnownItem,
  lacks,
  listCost,
  margin,
  parseQuantity,
  pricedQuantity,
  priceForMargin,
  priceOfContents,
  type SupplierRow,
  sharePrice,
} from "./index.ts";

const money = (price: string | null, quantity = "1", cost: string | null = null) => ({
  quantity: decimal(quantity),
  price: price === null ? null : rateOf(decimal(price)),
  cost: cost === null ? null : rateOf(decimal(cost)),
});

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

describe("reading kits and supplier prices", () => {
  const item = (code: string, kind: KnownItem["kind"], unit = "pc"): [string, KnownItem] => [
    code,
    {
      code,
      kind,
      tracking: "none",
      unit,
      barcode: "",
      state: "active",
      notCounted: false,
      cost: null,
      packs: [],
      hasStock: false,
      inUse: null,
      parts: null,
    },
  ];
  const facts: Facts = {
    items: new Map([
      item("KIT-TOOL", "kit"),
      item("SMK-S", "bought"),
      item("GLV-M", "bought", "pair"),
      item("LAB-B", "service", "hour"),
    ]),
    units: new Map(SHIPPED_UNITS.map((u) => [u.code, u])),
    stores: new Set(),
    people: new Set(),
  };
  const row = (change: Partial<KitRow>): KitRow => ({
    row: 2,
    kit: "KIT-TOOL",
    contentsShown: true,
    mayBeAddedTo: false,
    priceRule: "own",
    discount: decimal(0),
    item: "SMK-S",
    quantity: decimal(1),
    swap: "fixed",
    swaps: [],
    quantityMayChange: false,
    mayBeLeftOut: false,
    ...change,
  });
  it.each([
    ["what is no kit", { kit: "SMK-S" }, "kit not-kit"],
    ["a kit in a kit", { item: "KIT-TOOL" }, "item part-is-kit"],
    ["work in a kit", { item: "LAB-B" }, "item not-stocked"],
    ["half a piece", { quantity: decimal("0.5") }, "quantity decimals"],
    ["swaps that are not named", { swap: "listed" as const }, "swaps swaps-needed"],
    ["swaps of what is fixed", { swaps: ["SMK-S"] }, "swaps swaps-not-listed"],
    ["a swap in another unit", { swap: "listed" as const, swaps: ["GLV-M"] }, "swaps.0 swap-unit"],
  ])("refuses %s", (_, change, problem) => {
    const { good, problems } = checkKits([row(change)], new Set(), facts);
    expect([good, problems.map((p) => `${p.field} ${p.code}`)]).toEqual([[], [problem]]);
  });
  it("takes what concerns the kit from its first row, and refuses to hear it in two ways", () => {
    const blank = { contentsShown: null, mayBeAddedTo: null, priceRule: null, discount: null };
    const rows = [
      row({ contentsShown: false }),
      row({ ...blank, row: 3, item: "GLV-M" }),
      row({ ...blank, row: 4, contentsShown: true }),
    ];
    expect(checkKits(rows.slice(0, 2), new Set(), facts).good[0]).toMatchObject({ contentsShown: false });
    expect(checkKits(rows, new Set(), facts).problems.map((p) => `${p.row} ${p.code}`)).toEqual([
      "4 list-differs",
    ]);
    expect(checkKits([row({})], new Set(["KIT-TOOL"]), facts).problems[0]?.code).toBe("list-held");
  });
  const asks = (change: Partial<SupplierRow>): SupplierRow => ({
    row: 2,
    item: "SMK-S",
    supplier: "CALD",
    theirCode: "",
    price: decimal("17.2"),
    pricePer: "",
    leadDays: 12,
    minimum: null,
    multiple: null,
    web: "",
    preferred: true,
    ...change,
  });
  it.each([
    ["a supplier that is not there", [asks({ supplier: "NONE" })], "2 supplier supplier-unknown"],
    ["a kit bought whole", [asks({ item: "KIT-TOOL" })], "2 item kit-not-bought"],
    ["half a piece at least", [asks({ minimum: decimal("0.5") })], "2 minimum decimals"],
    ["two preferred", [asks({}), asks({ row: 3, supplier: "NORR" })], "3 preferred preferred-twice"],
    ["the same twice", [asks({}), asks({ row: 3, preferred: false })], "3 supplier code-repeated"],
  ])("refuses %s", (_, rows, problem) => {
    const { problems } = checkSuppliers(rows, facts, new Set(["CALD", "NORR"]));
    expect(problems.map((p) => `${p.row} ${p.field} ${p.code}`)).toEqual([problem]);
  });
});

describe("prices", () => {
  it("follow from a margin, to the cent and never below it", () => {
    expect(priceForMargin(decimal("20.4868"), decimal(40), 2)?.toFixed(2)).toBe("34.15");
    expect(priceForMargin(decimal(10), decimal(100), 2)).toBeNull();
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9_999_999 }),
        fc.integer({ min: 0, max: 989 }),
        (cost, tenths) => {
          const price = priceForMargin(decimal(`${cost}e-4`), decimal(`${tenths}e-1`), 2);
          if (!price) throw new Error("a margin below 100 % has a price");
          expect(isBelow(margin(price, decimal(`${cost}e-4`)), decimal(`${tenths}e-1`))).toBe(false);
        },
      ),
    );
  });
  it("leave nothing where they are zero", () => {
    expect(isBelow(margin(decimal(0), decimal(1)), decimal(0))).toBe(true);
  });
});

describe("expected cost with yield and extra cost", () => {
  it("is figured on what is started, and borne by what comes out good", () => {
    const costs = (item: number) => FEED_COSTS[item] ?? null;
    const list = { ...FEED, yield: decimal(95), extra: decimal(5) };
    const cost = listCost(list, decimal(20), costs);
    const started = listCost(FEED, decimal(22), costs);
    expect(cost.total.eq(started.total.plus(5))).toBe(true);
    expect(cost.each.toFixed(4)).toBe(started.total.plus(5).div(20).toFixed(4));
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
    expect(item({ state: "running out", hasCost: true })).toEqual([]);
    expect(item({ kind: "built" })).toEqual(["list"]);
    expect(item({ kind: "built", hasList: true })).toEqual(["cost"]);
    expect(item({ kind: "kit" })).toEqual(["contents", "price"]);
    expect(item({ kind: "kit", hasList: true, hasPrice: true })).toEqual([]);
    expect(item({ kind: "service" })).toEqual(["rate"]);
    expect(item({ state: "archived" })).toEqual([]);
  });
});
