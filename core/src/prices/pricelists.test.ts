import { describe, expect, it } from "vitest";
import { decimal as d } from "../amounts/index.ts";
import { checkPriceLists, type PriceListRow, stepThatCounts } from "./pricelists.ts";

const steps = (...all: [from: string, price: string][]) =>
  all.map(([from, price]) => ({ from: d(from), price }));

it("takes the largest step that the quantity reaches, of the first list that has one", () => {
  const own = steps(["10", "9.20"], ["50", "8.80"]);
  const group = steps(["0", "9.40"], ["24", "9.00"]);
  const price = (quantity: string, lists = [own, group]) => stepThatCounts(lists, d(quantity))?.price ?? null;
  expect(["9", "10", "49.999", "50", "1000"].map((n) => price(n))).toEqual([
    "9.40",
    "9.20",
    "9.20",
    "8.80",
    "8.80",
  ]);
  // The group's step is not lower than the customer's own because it is larger.
  expect(price("30")).toBe("9.20");
  expect([price("9", [own]), price("9", [[], []])]).toEqual([null, null]);
});

describe("prices of a file", () => {
  const facts = {
    items: new Map([
      ["HTL-J", { code: "HTL-J", unit: "pc", packs: [{ name: "box", quantity: d(20) }] }],
      ["KIT-TOOL", { code: "KIT-TOOL", unit: "pc", packs: [] }],
    ]),
    units: new Map([["pc", { code: "pc", name: "piece", dimension: "count", factor: d(1), decimals: 0 }]]),
  } as unknown as Parameters<typeof checkPriceLists>[1];
  const row = (change: Partial<PriceListRow>): PriceListRow => ({
    row: 2,
    customer: "",
    group: "Clubs",
    item: "HTL-J",
    from: d(0),
    price: d("9.20"),
    pricePer: "",
    ...change,
  });
  const problems = (...rows: Partial<PriceListRow>[]) =>
    checkPriceLists(
      rows.map((one, i) => row({ row: i + 2, ...one })),
      facts,
      new Set(["TARN"]),
      new Set(["KIT-TOOL"]),
    ).problems.map(({ row, field, code }) => `${row} ${field} ${code}`);
  it("are of a customer or a group, in the item's unit or a pack, each quantity once", () => {
    expect(
      problems({}, { customer: "tarn", group: "" }, { from: d(20) }, { from: d(40), pricePer: "box" }),
    ).toEqual([]);
    expect(problems({ customer: "TARN" }, { group: "" })).toEqual([
      "2 customer customer-or-group",
      "3 customer customer-or-group",
    ]);
    expect(problems({ customer: "NOBODY", group: "" }, { item: "NONE" })).toEqual([
      "2 customer customer-unknown",
      "3 item item-unknown",
    ]);
    expect(problems({ from: d("0.5") }, { pricePer: "crate" }, { item: "KIT-TOOL" })).toEqual([
      "2 from decimals",
      "3 pricePer price-unit",
      "4 item price-follows",
    ]);
    expect(problems({ from: d("20") }, { from: d("20.0") })).toEqual(["3 item code-repeated"]);
  });
});
