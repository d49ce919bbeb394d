import { describe, expect, it } from "vitest";
import type { KnownItem } from "./checking.ts";
import { type Choosable, type Choosing, reasonNotSelectable } from "./choosing.ts";

describe("why an item cannot be chosen", () => {
  const item = (kind: KnownItem["kind"], hasList = false) => ({
    id: 1,
    kind,
    hasList,
    state: "active" as const,
    notStockTracked: false,
    notForSale: false,
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
    expect(reasonNotSelectable("work", item("service"))).toBeNull();
    expect(reasonNotSelectable("work", item("bought"))).toBe("not-work");
    expect(reasonNotSelectable("stock", { ...item("bought"), notStockTracked: true })).toBe("not-stocked");
  });
  it("as a part or content: it is a kit; anywhere: it is archived", () => {
    expect(reasonNotSelectable("part", item("kit"))).toBe("part-is-kit");
    expect(reasonNotSelectable("content", item("kit"))).toBe("part-is-kit");
    expect(reasonNotSelectable("content", item("service"))).toBe("not-stocked");
    expect(reasonNotSelectable("part", { ...item("bought"), state: "archived" })).toBe("archived");
    expect(reasonNotSelectable("part", { ...item("bought"), state: "phasing out" })).toBeNull();
    expect(reasonNotSelectable("any", { ...item("bought"), state: "archived" })).toBeNull();
  });
});

const item = (change: Partial<Choosable> = {}): Choosable => ({
  id: 1,
  kind: "bought",
  hasList: false,
  state: "active",
  notStockTracked: false,
  notForSale: false,
  ...change,
});

describe("why an item cannot be chosen for a check, for buying or for selling", () => {
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
    ["built", item({ kind: "built" }), null],
    ["built", item({ kind: "built", id: 7 }), "part-is-product"],
    ["built", item({ kind: "bought" }), "not-built"],
    ["part", item({ id: 7 }), "part-is-product"],
    ["part", item({ kind: "kit" }), "part-is-kit"],
    ["part", item({ kind: "service" }), null],
    ["content", item({ kind: "service" }), "not-stocked"],
    ["stock", item({ notStockTracked: true }), "not-stocked"],
    ["selling", item({ notForSale: true }), "not-for-sale"],
    ["part", item({ notForSale: true }), null],
    ["any", item({ kind: "kit", state: "archived" }), null],
  ] as [Choosing, Choosable, string | null][])("for %s", (choosing, chosen, why) => {
    expect(reasonNotSelectable(choosing, chosen, 7)).toBe(why);
  });
});
