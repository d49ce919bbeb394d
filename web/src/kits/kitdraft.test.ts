import { describe, expect, it } from "vitest";
import {
  bodyOfKit,
  type ContentItem,
  type DraftContent,
  type DraftKit,
  emptyContent,
  figuresOfKit,
} from "./kitdraft.ts";

const one = (amount: string | null) => (amount === null ? null : { amount, per: "1" });

const item = (code: string, cost: string | null, price: string | null, free: string): ContentItem => ({
  id: code.length,
  code,
  name: code,
  kind: "bought",
  unit: "pc",
  notStockTracked: false,
  packs: [],
  currentCost: one(cost),
  priceRate: one(price),
  free,
});

const content = (key: number, of: ContentItem, quantity: string, more: Partial<DraftContent> = {}) => ({
  ...emptyContent(key),
  item: of,
  quantity,
  ...more,
});

const kit = (contents: DraftContent[], more: Partial<DraftKit> = {}): DraftKit => ({
  contentsShown: true,
  mayBeAddedTo: false,
  priceRule: "own",
  discount: "0",
  price: "20.00",
  contents: [...contents, emptyContent(9)],
  ...more,
});

const smoker = item("SMK-S", "17.20", "27.90", "18");

const tool = item("HTL-J1", "5.10", "9.60", "5");

describe("the draft of a kit", () => {
  it("tells sets, cost, price and margin of what is typed so far", () => {
    const figures = figuresOfKit(kit([content(0, smoker, "1"), content(1, tool, "2")]), 2);
    expect([figures.sets, figures.limiting, figures.cost, figures.price]).toEqual([
      "2",
      ["HTL-J1"],
      "27.4000",
      "20.00",
    ]);
    expect(figures.margin?.money.toFixed(2)).toBe("-7.40");
    const sum = figuresOfKit(
      kit([content(0, smoker, "1"), content(1, tool, "2")], { priceRule: "sum", discount: "10" }),
      2,
    );
    expect(sum.price).toBe("42.39");
    expect(figuresOfKit(kit([content(0, item("A", null, null, "1"), "1")]), 2).cost).toBeNull();
    // Without contents there is nothing to be sold.
    expect(figuresOfKit(kit([content(0, smoker, "x")]), 2).sets).toBe("0");
  });
  it("sends what is chosen only, and names swaps only where some may be", () => {
    const swaps = [{ code: "HTL-2", name: "Another" }];
    const body = bodyOfKit(
      kit(
        [content(0, smoker, "1", { swap: "any", swaps }), content(1, tool, "2", { swap: "listed", swaps })],
        {
          priceRule: "sum",
        },
      ),
    );
    expect(body.contents.map((c) => [c.item, c.swaps])).toEqual([
      ["SMK-S", []],
      ["HTL-J1", ["HTL-2"]],
    ]);
    expect(body.price).toBeNull();
  });
});
