import { describe, expect, it } from "vitest";
import { decimal } from "../amounts/index.ts";
import { full, line, list, unitOf } from "../testing/scenario.ts";
import {
  type Choosable,
  type Choosing,
  type FullLine,
  itemNeed,
  type PartsList,
  reasonNotSelectable,
  takeInstead,
} from "./index.ts";

const item = (change: Partial<Choosable> = {}): Choosable => ({
  id: 1,
  kind: "bought",
  hasList: false,
  state: "active",
  notCounted: false,
  ...change,
});

describe("why an item cannot be chosen", () => {
  it.each([
    ["wanted", item({ kind: "built", hasList: true }), null],
    ["wanted", item({ kind: "kit", hasList: true }), null],
    ["wanted", item({ kind: "built" }), "no-list"],
    ["wanted", item({ kind: "kit" }), "no-list"],
    ["wanted", item(), "not-wanted"],
    ["wanted", item({ kind: "service" }), "not-wanted"],
    ["buying", item(), null],
    ["buying", item({ kind: "service" }), null],
    ["buying", item({ kind: "kit" }), "not-bought"],
    ["product", item({ kind: "kit", hasList: true }), "not-built"],
    ["product", item({ kind: "built", hasList: true, state: "archived" }), "archived"],
    ["part", item({ id: 7 }), "part-is-product"],
    ["part", item({ kind: "kit" }), "part-is-kit"],
    ["part", item({ kind: "service" }), null],
    ["content", item({ kind: "service" }), "not-stocked"],
    ["stock", item({ notCounted: true }), "not-stocked"],
    ["any", item({ kind: "kit", state: "archived" }), null],
  ] as [Choosing, Choosable, string | null][])("for %s", (choosing, chosen, why) => {
    expect(reasonNotSelectable(choosing, chosen, 7)).toBe(why);
  });
});

describe("a substitute taken instead of a part", () => {
  const bars = full(line(1, "3", "pc", { waste: decimal(10) }), {
    substitutes: [{ item: 2, quantity: decimal(2) }],
  });
  const glue = full(line(3, "5", "mL", { stock: "L" }), {
    substitutes: [{ item: 4, quantity: decimal("0.5") }],
  });
  const recipe: PartsList<FullLine> = { ...list([]), lines: [bars, glue] };
  const need = (taken: PartsList<FullLine>, at: number, n: number) => {
    const found = taken.lines[at];
    return found && [found.item, itemNeed([found], taken.makes, decimal(n)).toFixed()];
  };
  it("is needed by its own factor, rounded once in its own unit", () => {
    const taken = takeInstead(recipe, 1, { item: 2, unit: unitOf("pc"), stocked: true });
    // 7 × 3 with a tenth of waste are 23.1; twice that are 46.2, so 47
    expect([need(recipe, 0, 7), need(taken, 0, 7)]).toEqual([
      [1, "24"],
      [2, "47"],
    ]);
    expect(need(taken, 1, 7)).toEqual(need(recipe, 1, 7));
  });
  it("keeps the conversion of the line: millilitres into litres, half as much", () => {
    const taken = takeInstead(recipe, 3, { item: 4, unit: unitOf("L"), stocked: true });
    expect([need(recipe, 1, 7), need(taken, 1, 7)]).toEqual([
      [3, "0.035"],
      [4, "0.018"],
    ]);
  });
  it("is taken only where the line allows it", () => {
    const taken = takeInstead(recipe, 3, { item: 2, unit: unitOf("pc"), stocked: true });
    expect(taken.lines).toEqual(recipe.lines);
  });
});
