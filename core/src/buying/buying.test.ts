import { describe, expect, it } from "vitest";
import { decimal, rateOf, valueAt } from "../amounts/index.ts";
import { arrivesBy, orderBy, quantityToBuild, quantityToOrder } from "./offer.ts";

const TODAY = "2026-11-23";

describe("what to order (docs/rules.md § 4)", () => {
  const order = (short: string, minimum: string | null, multiple: string | null) =>
    quantityToOrder(decimal(short), {
      firm: 1,
      minimum: minimum === null ? null : decimal(minimum),
      multiple: multiple === null ? null : decimal(multiple),
    }).toFixed();
  it.each([
    ["14", "10", "6", "18"],
    ["0", "10", "6", "0"],
    ["-3", "10", "6", "0"],
    ["3", "10", "6", "12"],
    ["3", null, null, "3"],
    ["12", null, "6", "12"],
    ["0.2", null, "0.25", "0.25"],
  ])("short %s, minimum %s, multiple %s: %s", (short, minimum, multiple, expected) => {
    expect(order(short, minimum, multiple)).toBe(expected);
  });
  it.each([
    ["3", "0.335", "1.01"],
    ["3", "0.3333", "1.00"],
    ["0.5", "0.01", "0.01"],
  ])("%s at %s each come to %s on the line", (quantity, price, total) => {
    expect(valueAt(decimal(quantity), rateOf(decimal(price)), 2).toFixed(2)).toBe(total);
  });
  const draft = (firm: number | null, quantity: string) => ({
    document: "P-4",
    firm,
    quantity: decimal(quantity),
  });
  const offer = (minimum: string | null, multiple: string | null) => ({
    firm: 1,
    minimum: minimum === null ? null : decimal(minimum),
    multiple: multiple === null ? null : decimal(multiple),
  });
  it("is less by what stands on drafts: its own after raising, others before", () => {
    const more = (drafts: Parameters<typeof quantityToOrder>[2], at = offer("10", "6")) =>
      quantityToOrder(decimal(14), at, drafts).toFixed();
    expect(more([draft(1, "10")], offer(null, null))).toBe("4");
    expect(more([draft(1, "10")])).toBe("8");
    expect(more([draft(2, "10")])).toBe("12");
    expect([more([draft(1, "18")]), more([draft(2, "14")]), more([draft(null, "30")])]).toEqual([
      "0",
      "0",
      "0",
    ]);
    expect(quantityToBuild(decimal(20), [draft(null, "15")]).toFixed()).toBe("5");
  });
  it("is ordered so many days ahead, and arrives so many days on", () => {
    expect([orderBy("2026-12-02", { leadDays: 9 }), arrivesBy(TODAY, { leadDays: 9 })]).toEqual([
      TODAY,
      "2026-12-02",
    ]);
    expect([orderBy(TODAY, { leadDays: null }), arrivesBy(TODAY, { leadDays: null })]).toEqual([null, null]);
  });
});
