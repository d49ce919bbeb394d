import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal, eachAt, type Rate, rateOf, SHIPPED_UNITS } from "../amounts/index.ts";
import { FEED, FEED_COSTS, line, list, SHEET, SYRUP, WORK } from "../testing/scenario.ts";
import {
  type CostFacts,
  checkItems,
  checkLines,
  checkLists,
  codeKey,
  type Facts,
  findCycle,
  type ItemRow,
  type KnownItem,
  type ListRow,
  lineNeed,
  listCost,
  listKey,
  margin,
  nextNeed,
  reasonNotSelectable,
  searchText,
  startFor,
  unitCosts,
} from "./index.ts";

const units = new Map(SHIPPED_UNITS.map((u) => [u.code, u]));
const stocked = FEED.lines.filter((l) => !l.service);

describe("need of FEED-12 (docs/rules.md § 2)", () => {
  it.each([
    ["20", ["249.900", "0.100", "20", "21", "1"]],
    ["10", ["124.950", "0.050", "10", "11", "1"]],
    ["7", ["87.465", "0.035", "7", "8", "1"]],
    ["0", ["0.000", "0.000", "0", "0", "0"]],
  ])("for %s", (n, needs) => {
    const figures = stocked.map((l) => lineNeed(l, FEED.makes, decimal(n)).toFixed(l.stockUnit.decimals));
    expect(figures).toEqual(needs);
  });
  it("plans work in the unit of its line, so minutes stay minutes", () => {
    const work = FEED.lines.find((l) => l.item === WORK);
    expect(work && lineNeed(work, FEED.makes, decimal(20)).toFixed()).toBe("30");
  });
  it("draws 11 and 10 labels for two halves, as 20 takes 21; the sheet once", () => {
    const halves = (item: number) =>
      ["0", "10"].map((done) => {
        const l = FEED.lines.find((x) => x.item === item);
        return l && nextNeed(l, FEED.makes, decimal(done), decimal(10)).toFixed();
      });
    expect(halves(4)).toEqual(["11", "10"]);
    expect(halves(SHEET)).toEqual(["1", "0"]);
  });
  it("starts 22 for 20 good at 95 %", () => {
    expect(startFor({ yield: decimal(95), decimals: 0 }, decimal(20)).toFixed()).toBe("22");
  });
  it("is monotone in N, and parts never take more than the whole", () => {
    const amount = fc.integer({ min: 1, max: 1_000_000 });
    fc.assert(
      fc.property(
        amount,
        amount,
        amount,
        fc.integer({ min: 0, max: 9999 }),
        amount,
        fc.boolean(),
        (a, b, q, w, m, once) => {
          const l = line(1, `${q}e-3`, "g", { stock: "kg", waste: decimal(w).div(100), oncePerBuild: once });
          const makes = decimal(m);
          const [low, high] = a < b ? [a, b] : [b, a];
          const first = lineNeed(l, makes, decimal(low));
          const all = lineNeed(l, makes, decimal(high));
          expect(first.lte(all)).toBe(true);
          expect(first.plus(nextNeed(l, makes, decimal(low), decimal(high - low))).eq(all)).toBe(true);
        },
      ),
    );
  });
});

describe("cost of a list", () => {
  const costs = (item: number): Rate | null => FEED_COSTS[item] ?? null;
  it("adds up FEED-12 at its usual 20", () => {
    const cost = listCost(FEED, FEED.usual, costs);
    expect(cost.lines.map((c) => c?.toFixed(4))).toEqual([
      "337.3650",
      "8.8000",
      "42.0000",
      "2.5200",
      "0.0500",
      "16.0000",
    ]);
    expect(
      [cost.materials, cost.work, cost.overhead, cost.total, cost.each].map((c) => c.toFixed(4)),
    ).toEqual(["390.7350", "16.0000", "3.0000", "409.7350", "20.4868"]);
  });
  it("says which cost it does not know", () => {
    expect(listCost(FEED, decimal(8), (i) => (i === SYRUP ? null : costs(i))).unknown).toEqual([SYRUP]);
  });
  it("figures margin of a price, none in percent for a price of zero", () => {
    expect(margin(decimal(34), decimal("20.4868")).percent?.toFixed(1)).toBe("39.7");
    expect(margin(decimal(0), decimal(1)).percent).toBeNull();
  });
});

describe("current unit cost (docs/rules.md § 5)", () => {
  const facts = (f: Partial<CostFacts>): CostFacts => ({
    onHand: decimal(0),
    value: decimal(0),
    lastIssued: null,
    standard: null,
    list: null,
    ...f,
  });
  const book = new Map<number, CostFacts>([
    [1, facts({ onHand: decimal(3), value: decimal(10), standard: rateOf(decimal(99)) })],
    [2, facts({ lastIssued: rateOf(decimal("2.5")), standard: rateOf(decimal(99)) })],
    [3, facts({ standard: rateOf(decimal("1.1")) })],
    [4, facts({ standard: rateOf(decimal(7)), list: list([line(1, "2", "pc"), line(3, "1", "pc")]) })],
    [5, facts({ list: list([line(4, "1", "pc"), line(9, "1", "pc")]) })],
    [6, facts({ list: list([line(6, "1", "pc")]) })],
  ]);
  const cost = unitCosts((item) => book.get(item));
  it.each([
    [1, "3.3333"],
    [2, "2.5"],
    [3, "1.1"],
    [4, "7.7667"],
    [5, undefined],
    [6, undefined],
  ])("of item %i", (item, figure) => {
    const found = cost(item);
    expect(found ? eachAt(found).toFixed() : undefined).toBe(figure);
  });
  it("is rounded only at the end: 309 of what 1150 are worth 28.20 cost 7.58, not 309 times a rounded one", () => {
    const kept = new Map([[1, facts({ onHand: decimal(1150), value: decimal("28.20") })]]);
    const dear = unitCosts((item) => kept.get(item));
    const { lines } = listCost(list([line(1, "309", "g")]), decimal(1), dear);
    expect(lines.map((cost) => cost?.toFixed(4))).toEqual(["7.5772"]);
  });
});

describe("checking items", () => {
  const row = (r: Partial<ItemRow>): ItemRow => ({
    row: 2,
    code: "FRM-D",
    name: "frame bars",
    kind: "bought",
    unit: "pc",
    tracking: "none",
    group: "",
    barcode: "",
    cost: null,
    price: null,
    costPer: "",
    pricePer: "",
    store: "",
    bin: "",
    reorderLevel: null,
    buildDays: null,
    shelfLife: null,
    warrantyMonths: null,
    maker: "",
    makerNumber: "",
    lotPattern: "",
    state: "active",
    notCounted: false,
    packs: [],
    notes: "",
    ...r,
  });
  const known = new Map<string, KnownItem>([
    [
      "BOX-D",
      {
        code: "BOX-D",
        kind: "bought",
        tracking: "none",
        unit: "pc",
        barcode: "4006",
        state: "active",
        notCounted: false,
        cost: null,
        packs: [],
        hasStock: true,
        inUse: "movements on the books",
        parts: null,
      },
    ],
  ]);
  it.each([
    ["another's barcode", { barcode: "4006" }, "barcode-taken"],
    ["another unit once there are movements", { code: "box-d", unit: "pair" }, "in-use"],
    ["a kit by the kilogram", { kind: "kit" as const, unit: "kg" }, "kit-unit"],
    ["a kit with lots", { kind: "kit" as const, tracking: "lot" as const }, "kit-no-tracking"],
    ["lots of what is not counted", { notCounted: true, tracking: "lot" as const }, "not-counted-tracking"],
    ["a price for what does not convert to its unit", { pricePer: "kg" }, "price-unit"],
    ["a cost for a pack it does not have", { costPer: "sack" }, "price-unit"],
    ["a pack of half a piece", { packs: [{ name: "box", quantity: decimal("0.5") }] }, "decimals"],
    [
      "two packs of one name",
      { packs: ["box", "Box"].map((name) => ({ name, quantity: decimal(2) })) },
      "pack-repeated",
    ],
    ["a reorder level of half a piece", { reorderLevel: decimal("2.5") }, "decimals"],
    ["an unknown unit", { unit: "crate" }, "unit-unknown"],
    ["a unit in other case", { unit: "l" }, "unit-unknown"],
    ["a tracked service", { kind: "service" as const, tracking: "lot" as const }, "service-no-tracking"],
    ["serials by weight", { tracking: "serial" as const, unit: "kg" }, "serial-unit"],
    ["a bin in no store", { bin: "01-A" }, "bin-without-store"],
  ])("refuses %s", (_, change, code) => {
    const { good, problems } = checkItems([row(change)], known, units);
    expect(good).toEqual([]);
    expect(problems.map((p) => p.code)).toEqual([code]);
  });
  it("refuses the second of two rows with one code and names the first", () => {
    const { good, problems } = checkItems([row({}), row({ row: 3, code: "frm-d" })], known, units);
    expect(good.length).toBe(1);
    expect(problems).toEqual([
      { row: 3, field: "code", value: "frm-d", code: "code-repeated", params: { row: 2 } },
    ]);
  });
  it("folds codes and search words alike", () => {
    expect(codeKey(" frm-a ")).toBe("FRM-A");
    expect(searchText("Café", "HON-B")).toBe("cafe hon-b");
  });
});

describe("checking lists", () => {
  const item = (
    code: string,
    kind: KnownItem["kind"],
    unit: string,
    parts: string[] | null = null,
  ): [string, KnownItem] => [
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
      parts,
    },
  ];
  const known = new Map([
    item("HIVE-N", "built", "pc"),
    item("FRM-A", "built", "pc", ["FRM-D", "GLUE-W"]),
    item("HIVE-C", "built", "pc", ["HIVE-N"]),
    item("FRM-D", "bought", "pc"),
    item("GLUE-W", "bought", "L"),
    item("KIT-TOOL", "kit", "pc"),
    item("LAB-B", "service", "hour"),
  ]);
  const facts: Facts = {
    items: known,
    units,
    stores: new Set(["YARD"]),
    people: new Set(["TOBIAS"]),
  };
  const row = (r: Partial<ListRow>): ListRow => ({
    row: 2,
    product: "HIVE-N",
    list: "",
    makes: null,
    usual: null,
    overhead: null,
    extra: null,
    yield: null,
    part: "FRM-D",
    quantity: decimal(1),
    unit: "pc",
    waste: decimal(0),
    oncePerBuild: false,
    optional: false,
    drawnAt: "pick",
    store: "",
    note: "",
    share: null,
    person: "",
    substitutes: [],
    ...r,
  });
  const codes = (...rows: ListRow[]) =>
    checkLists(rows, new Set(), facts).problems.map((p) => `${p.row} ${p.field} ${p.code}`);
  it("takes what concerns the product from its first row", () => {
    const { good } = checkLists(
      [
        row({ makes: decimal(8), usual: decimal(20), overhead: decimal("0.15") }),
        row({ row: 3, makes: decimal(8) }),
      ],
      new Set(),
      facts,
    );
    expect(good.map((l) => [l.makes, l.usual, l.overhead].map(String))).toEqual([["8", "20", "0.15"]]);
  });
  it.each([
    ["an unknown part", row({ part: "FRM-Z" }), "2 part item-unknown"],
    ["the product itself", row({ part: "hive-n" }), "2 part part-is-product"],
    ["a part of another dimension", row({ part: "GLUE-W", unit: "g" }), "2 unit unit-dimension"],
    ["an unknown unit", row({ unit: "crate" }), "2 unit unit-unknown"],
    ["half a piece", row({ quantity: decimal("0.5") }), "2 quantity decimals"],
    ["half a product a batch", row({ makes: decimal("1.5"), usual: decimal(2) }), "2 makes decimals"],
    ["a product that is bought", row({ product: "FRM-D", part: "GLUE-W", unit: "L" }), "2 product not-built"],
    ["a kit as a part", row({ part: "KIT-TOOL" }), "2 part part-is-kit"],
    ["a store that is not there", row({ store: "Attic" }), "2 store store-unknown"],
    ["a person who is not there", row({ person: "Nobody" }), "2 person person-unknown"],
    ["a person for what is no work", row({ person: "Tobias" }), "2 person person-for-work"],
    ["shares that do not add up", row({ share: decimal(60) }), "2 share shares-sum"],
    [
      "the part as its own substitute",
      row({ substitutes: [{ item: "frm-d", quantity: decimal(1) }] }),
      "2 substitutes.0.item substitute-same",
    ],
    [
      "a substitute that leads back to the product",
      row({ substitutes: [{ item: "HIVE-C", quantity: decimal(1) }] }),
      "2 substitutes.0.item parts-circle",
    ],
    ["a product not in the catalog", row({ product: "NONE-1" }), "2 product item-unknown"],
  ])("refuses %s", (_, bad, problem) => {
    expect(codes(bad)).toContain(problem);
  });
  it("refuses a circle over several lists with the way in words", () => {
    const [problem] = checkLines({ product: "HIVE-N", lines: [row({ part: "HIVE-C" })] }, facts);
    expect(problem?.params.path).toBe("HIVE-N → HIVE-C → HIVE-N");
    expect(findCycle(1, 2, (i) => (i === 2 ? [3] : [1]))).toEqual([1, 2, 3, 1]);
  });
  it("finds a circle between two lists of one file", () => {
    const both = [item("A", "built", "pc"), item("B", "built", "pc")];
    const { good, problems } = checkLists(
      [row({ product: "A", part: "B" }), row({ row: 3, product: "B", part: "A" })],
      new Set(),
      { ...facts, items: new Map(both) },
    );
    expect([good.map((l) => l.product), problems.map((p) => p.code)]).toEqual([["A"], ["parts-circle"]]);
  });
  it("refuses rows of one product that disagree, and holds back a list that has a bad row elsewhere", () => {
    expect(codes(row({ makes: decimal(8) }), row({ row: 3, makes: decimal(9) }))).toEqual([
      "3 makes list-differs",
    ]);
    const held = checkLists([row({})], new Set([listKey("hive-n", "")]), facts);
    expect([held.good, held.problems.map((p) => p.code)]).toEqual([[], ["list-held"]]);
  });
});

describe("why an item cannot be chosen", () => {
  const item = (kind: KnownItem["kind"], hasList = false) => ({
    id: 1,
    kind,
    hasList,
    state: "active" as const,
    notCounted: false,
  });
  it("as a product: it is not built, or has no list yet", () => {
    expect(reasonNotSelectable("product", item("bought"))).toBe("not-built");
    expect(reasonNotSelectable("product", item("service"))).toBe("not-built");
    expect(reasonNotSelectable("product", item("built"))).toBe("no-list");
    expect(reasonNotSelectable("product", item("built", true))).toBeNull();
  });
  it("as a part: it is the product itself; as stock: it is work", () => {
    expect(reasonNotSelectable("part", item("built"), 1)).toBe("part-is-product");
    expect(reasonNotSelectable("part", item("service"), 2)).toBeNull();
    expect(reasonNotSelectable("stock", item("service"))).toBe("not-stocked");
    expect(reasonNotSelectable("stock", item("bought"))).toBeNull();
    expect(reasonNotSelectable("stock", item("kit"))).toBe("not-stocked");
    expect(reasonNotSelectable("stock", { ...item("bought"), notCounted: true })).toBe("not-stocked");
  });
  it("as a part or content: it is a kit; anywhere: it is archived", () => {
    expect(reasonNotSelectable("part", item("kit"))).toBe("part-is-kit");
    expect(reasonNotSelectable("content", item("kit"))).toBe("part-is-kit");
    expect(reasonNotSelectable("content", item("service"))).toBe("not-stocked");
    expect(reasonNotSelectable("part", { ...item("bought"), state: "archived" })).toBe("archived");
    expect(reasonNotSelectable("part", { ...item("bought"), state: "running out" })).toBeNull();
    expect(reasonNotSelectable("any", { ...item("bought"), state: "archived" })).toBeNull();
  });
});
