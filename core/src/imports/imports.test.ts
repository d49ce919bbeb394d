import { describe, expect, it } from "vitest";
import { decimal } from "../amounts/index.ts";
import type { Facts, KnownItem } from "../items/index.ts";
import { checkLines, findCycle } from "../lists/index.ts";
import { UNITS } from "../testing/scenario.ts";
import { checkLists, type ListRow, listKey } from "./lists.ts";

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
      notStockTracked: false,
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
    units: UNITS,
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
