import type { OrderLine, OrderRow } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { Format } from "../ui/index.ts";
import { buildable, farWords, groupOf, linesComing, orderWords, rowsOf } from "./words.ts";

const format = new Format("en-GB", { currency: "EUR", timeZone: "UTC", today: "2026-11-23" });
const order = (change: Partial<OrderRow>): OrderRow => ({
  id: 1,
  number: "O-1",
  customer: { id: 1, code: "TBC", name: "Tarnholt Bee Club" },
  stage: "open",
  due: null,
  validUntil: null,
  lapsed: false,
  reference: "",
  lines: 2,
  linesReady: 0,
  linesReadyInPart: 0,
  linesMissing: 0,
  overdue: false,
  made: "",
  ...change,
});
const item = (id: number): OrderLine["item"] => ({
  id,
  code: `I-${id}`,
  name: `Item ${id}`,
  kind: "built",
  tracking: "none",
  unit: "pc",
  decimals: 0,
  state: "active",
  notStockTracked: false,
  packs: [],
  thumbnail: null,
});
const take = (id: number, missing: string, canBeBuilt = true) => ({
  item: item(id),
  per: "1",
  shipped: "0",
  closed: "0",
  packed: "0",
  open: "4",
  ready: "0",
  coming: "0",
  missing,
  planned: "0",
  canBeBuilt,
  finishWhenShipped: false,
  builds: [],
  purchases: [],
});
const line = (id: number, of: number, takes: OrderLine["takes"]): OrderLine => ({
  id,
  item: item(of),
  quantity: "4",
  price: null,
  pricePer: "",
  discount: "0",
  total: null,
  taxRate: "20",
  serial: "",
  finishWhenShipped: null,
  bySupplier: false,
  promise: null,
  promised: null,
  late: false,
  shipped: "0",
  open: "4",
  closed: "0",
  set: null,
  ready: "0",
  takes,
});

describe("an order in the list", () => {
  it.each([
    [{ linesReady: 2 }, "O-1 · ready to ship"],
    [{ linesReady: 1, reference: "PO 77" }, "O-1 · PO 77 · ready in part, the rest is on its way"],
    [{ linesMissing: 1 }, "O-1 · 1 line short"],
    [{ linesMissing: 2 }, "O-1 · 2 lines short"],
    [{ stage: "cancelled" as const }, "O-1 · cancelled"],
  ])("%o reads: %s", (change, words) => {
    expect(orderWords(order(change), format)).toBe(words);
  });
  it.each([
    [{}, "No due date"],
    [{ due: "2026-11-20", overdue: true }, "Overdue"],
    [{ due: "2026-11-23" }, "Due today"],
    [{ due: "2026-11-24" }, "Due later"],
    [{ stage: "cancelled" as const, due: "2026-11-24" }, "Cancelled"],
  ])("%o stands under: %s", (change, group) => {
    expect(groupOf(order(change), "2026-11-23")).toBe(group);
  });
});

describe("how far it is", () => {
  it("counts lines that are coming apart from those that are there and those that short", () => {
    expect(linesComing(order({ lines: 5, linesReady: 2, linesMissing: 1 }))).toBe("2");
  });
  it("says in words what the tiles of a line show", () => {
    const hive = { ...take(7, "3"), open: "8", ready: "2", coming: "3" };
    expect(farWords(line(1, 7, [hive]), hive, format)).toBe("2 of 8 ready, 3 incoming");
    expect(farWords(line(1, 7, []), null, format)).toBe("0 of 4 ready");
  });
});

describe("the lines of an order", () => {
  it("stand by themselves, work too; what is in a set stands under it", () => {
    const lines = [
      line(1, 7, [take(7, "4")]),
      line(2, 8, []),
      line(3, 9, [take(7, "0"), take(10, "2", false)]),
    ];
    expect(
      rowsOf({ orderLines: lines }).map(({ key, own, take: t }) => [key, own, t?.item.id ?? null]),
    ).toEqual([
      ["1", true, 7],
      ["2", true, null],
      ["3", true, null],
      ["3 7", false, 7],
      ["3 10", false, 10],
    ]);
    expect(buildable({ orderLines: lines })).toEqual([{ line: 1, item: 7, quantity: "4" }]);
    const planned = line(1, 7, [{ ...take(7, "4"), planned: "3" }]);
    expect(buildable({ orderLines: [planned] })).toEqual([{ line: 1, item: 7, quantity: "1" }]);
  });
  it("keep a set of one content apart from that content", () => {
    expect(rowsOf({ orderLines: [line(1, 9, [take(7, "0")])] })).toHaveLength(2);
  });
});

it("a quote says until when it is valid, and stands apart from orders", () => {
  const quote = order({ stage: "quote", validUntil: "2026-12-01", reference: "Ring back" });
  expect([groupOf(quote, "2026-11-23"), orderWords(quote, format)]).toEqual([
    "Quotes",
    "O-1 · Ring back · quote, valid until 1 Dec",
  ]);
  const lapsed = order({ stage: "quote", validUntil: "2026-11-01", lapsed: true });
  expect([groupOf(lapsed, "2026-11-23"), orderWords(lapsed, format)]).toEqual([
    "Quotes no longer valid",
    "O-1 · quote, was valid until 1 Nov",
  ]);
});
