import { describe, expect, it } from "vitest";
import { decimal } from "../amounts/index.ts";
import { codeKey, searchText } from "../keys.ts";
import { UNITS } from "../testing/scenario.ts";
import { checkItems, type ItemInput, type KnownItem } from "./checking.ts";

describe("checking items", () => {
  const row = (r: Partial<ItemInput>): ItemInput => ({
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
    taxRate: null,
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
    notStockTracked: false,
    notForSale: false,
    alwaysBuild: false,
    finishWhenShipped: false,
    lotFixed: false,
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
        notStockTracked: false,
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
    [
      "lots of what is not counted",
      { notStockTracked: true, tracking: "lot" as const },
      "not-stock-tracked-tracking",
    ],
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
    const { good, problems } = checkItems([row(change)], known, UNITS);
    expect(good).toEqual([]);
    expect(problems.map((p) => p.code)).toEqual([code]);
  });
  it("refuses the second of two rows with one code and names the first", () => {
    const { good, problems } = checkItems([row({}), row({ row: 3, code: "frm-d" })], known, UNITS);
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
