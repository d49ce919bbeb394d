import { describe, expect, it } from "vitest";
import { decimal, SHIPPED_UNITS } from "../amounts/index.ts";
import { checkSuppliers, type Facts, type KnownItem, type SupplierRow } from "../items/index.ts";
import { checkKits, type KitRow } from "./kits.ts";

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
      notStockTracked: false,
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
