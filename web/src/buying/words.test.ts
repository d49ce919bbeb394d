import type { PurchaseLine } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { Format } from "../ui/index.ts";
import { cameOf, groupOf, orderedWords, receiveLines, serialsIn } from "./words.ts";

const TODAY = "2026-11-23";
const format = new Format("en-GB", { currency: "EUR", timeZone: "UTC", today: TODAY });
const line = (more: Partial<PurchaseLine> = {}): PurchaseLine => ({
  id: 5,
  theirCode: "",
  agreed: null,
  quantity: "150",
  price: "0.85",
  pricePer: "",
  total: "127.50",
  expected: null,
  costTag: "",
  note: "",
  received: "0",
  open: "150",
  closed: false,
  store: "Yard",
  bin: "Y1-A",
  shelfLife: null,
  for: [],
  pack: null,
  item: {
    id: 2,
    code: "FRM-D",
    name: "Bars",
    kind: "bought",
    tracking: "none",
    unit: "pc",
    decimals: 0,
    state: "active",
    notStockTracked: false,
    packs: [],
    thumbnail: null,
  },
  ...more,
});
const row = (stage: "draft" | "sent" | "received", expected: string | null) =>
  groupOf(
    {
      id: 1,
      number: "P-1",
      supplier: { id: 1, code: "", name: "" },
      stage,
      lines: 1,
      linesDone: 0,
      total: "1",
      expected,
      made: "",
    },
    TODAY,
  );

describe("purchase orders in words", () => {
  it("are overdue only while something is on its way", () => {
    expect([
      row("draft", "2026-11-01"),
      row("sent", "2026-11-22"),
      row("sent", TODAY),
      row("sent", null),
      row("received", null),
    ]).toEqual(["Drafts", "Overdue", "On the way", "On the way", "Received"]);
  });
  it("tell packs as they are ordered", () => {
    expect(orderedWords(line(), format)).toBe("150 pc");
    expect(orderedWords(line({ pack: { name: "pack", size: "50", count: "3" } }), format)).toBe(
      "3 × pack of 50 pc",
    );
  });
});

describe("what came", () => {
  it("is offered as all that is open, and sends only what came or is given up", () => {
    const [syrup, scales] = [
      line({ id: 6, shelfLife: 30, item: { ...line().item, tracking: "lot" } }),
      line({ id: 7, item: { ...line().item, tracking: "serial" } }),
    ];
    const drafts = [line(), syrup, scales].map((l) => cameOf(l, TODAY));
    expect(drafts[1]).toMatchObject({
      quantity: "150",
      lots: [{ expiry: "2026-12-23" }],
      store: "Yard",
      bin: "Y1-A",
    });
    const typed = drafts.map((draft, i) => ({
      ...draft,
      ...[
        { quantity: "0" },
        { quantity: "20", lots: [{ lot: "HS-1", expiry: "2026-12-23", quantity: "" }] },
        { quantity: "2", serials: "A-1\nA-2" },
      ][i],
    }));
    expect(receiveLines(typed, [line(), syrup, scales])).toMatchObject([
      { line: 6, quantity: "20", lots: [{ lot: "HS-1", expiry: "2026-12-23", quantity: "20" }], serials: [] },
      { line: 7, quantity: "2", lots: [], serials: ["A-1", "A-2"] },
    ]);
    const closed = [{ ...cameOf(line(), TODAY), quantity: "", close: true }];
    expect(receiveLines(closed, [line()])).toMatchObject([{ line: 5, quantity: "0", close: true }]);
  });
  it("may be several lots, each with its own quantity", () => {
    const syrup = line({ id: 6, item: { ...line().item, tracking: "lot" } });
    const lots = [
      { lot: "HS-1", expiry: "", quantity: "12" },
      { lot: "HS-2", expiry: "2027-01-31", quantity: "8" },
    ];
    expect(receiveLines([{ ...cameOf(syrup, TODAY), quantity: "20", lots }], [syrup])[0]?.lots).toEqual([
      { lot: "HS-1", expiry: null, quantity: "12" },
      { lot: "HS-2", expiry: "2027-01-31", quantity: "8" },
    ]);
  });
  it("has serial numbers one a line, or with commas between", () => {
    expect(serialsIn(" A-1 \nA-2, A-3;;\tA-4\n")).toEqual(["A-1", "A-2", "A-3", "A-4"]);
  });
});
