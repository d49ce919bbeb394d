import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Decimal, decimal as d, rateOf } from "../amounts/index.ts";
import {
  checkContents,
  contentsAsDefined,
  type DefinedContent,
  isAsDefined,
  type KitCopy,
  type OrderedContent,
  priceAsChanged,
  sameKit,
  takenBySet,
} from "./changing.ts";
import { sharePrice } from "./kit.ts";

const [HIVE, SUIT_M, GLV_M, SMOKER, TOOL] = [1, 2, 3, 4, 5];
const [SUIT_L, GLV_L, CARD, JAR] = [12, 13, 16, 17];
const PRICES: Record<number, string> = {
  [HIVE]: "164.00",
  [SUIT_M]: "58.00",
  [GLV_M]: "14.50",
  [SMOKER]: "27.90",
  [TOOL]: "9.60",
  [SUIT_L]: "62.00",
  [GLV_L]: "14.50",
};
const moneyOf = (item: number) => {
  const price = PRICES[item];
  return { price: price === undefined ? null : rateOf(d(price)), cost: null };
};
const content = (item: number, change: Partial<DefinedContent> = {}): DefinedContent => ({
  item,
  quantity: d(1),
  stocked: true,
  swap: "fixed",
  swaps: [],
  quantityMayChange: false,
  mayBeLeftOut: false,
  ...change,
});
const kitOf = (contents: DefinedContent[], change: Partial<KitCopy> = {}): KitCopy => ({
  contentsShown: true,
  mayBeAddedTo: false,
  priceRule: "own",
  discount: d(0),
  contents,
  ...change,
});
const yard = kitOf([
  content(HIVE),
  content(SUIT_M, { swap: "listed", swaps: [SUIT_L] }),
  content(GLV_M, { swap: "listed", swaps: [GLV_L], mayBeLeftOut: true }),
  content(SMOKER),
  content(TOOL, { quantityMayChange: true }),
]);
const club = kitOf(
  [content(GLV_M, { quantity: d(6), swap: "any", quantityMayChange: true, mayBeLeftOut: true })],
  {
    mayBeAddedTo: true,
  },
);

/** The contents of a kit with some of them changed; null leaves one out. */
const changed = (kit: KitCopy, changes: Record<number, Partial<OrderedContent> | null>): OrderedContent[] =>
  contentsAsDefined(kit).flatMap((own, at) => {
    const change = changes[at];
    return change === null ? [] : { ...own, ...change };
  });
const price = (kit: KitCopy, ordered: OrderedContent[], own: Decimal | null = d("239.00"), decimals = 2) =>
  priceAsChanged(kit, ordered, own, moneyOf, decimals)?.toFixed(decimals) ?? null;

describe("the price of a set with its contents changed (docs/rules.md § 7)", () => {
  it("offers the difference of list prices: two hive tools instead of one, 239.00 → 248.60", () => {
    expect(price(yard, changed(yard, { 4: { quantity: d(2) } }))).toBe("248.60");
    expect(price(yard, changed(yard, { 1: { item: SUIT_L } }))).toBe("243.00");
    expect(price(yard, changed(yard, { 2: null }))).toBe("224.50");
    expect(price(yard, contentsAsDefined(yard))).toBe("239.00");
  });
  it("adds the list price of what is added, and offers nothing where one has none", () => {
    const added = (item: number) => [...contentsAsDefined(club), { of: null, item, quantity: d(2) }];
    expect([price(club, added(TOOL)), price(club, added(CARD))]).toEqual(["258.20", "239.00"]);
    expect(price(club, [{ of: 0, item: CARD, quantity: d(6) }])).toBe("239.00");
  });
  it("is never below zero, and unknown where the kit has no price", () => {
    expect(price(yard, changed(yard, { 2: null }), d("10.00"))).toBe("0.00");
    expect(price(yard, changed(yard, { 2: null }), null)).toBeNull();
  });
  it("follows the contents where it is their sum", () => {
    const sum = { ...yard, priceRule: "sum" as const, discount: d(10) };
    expect(price(sum, contentsAsDefined(sum), null)).toBe("246.60");
    expect(price(sum, changed(sum, { 4: { quantity: d(2) } }), d(1))).toBe("255.24");
    expect(price(sum, changed(sum, { 4: { item: JAR } }), d(1))).toBeNull();
  });
  it("is shared anew: 239.00 over what is in it", () => {
    const shares = (ordered: OrderedContent[]) =>
      sharePrice(
        d("239.00"),
        ordered.map(({ item, quantity }) => ({ quantity, ...moneyOf(item) })),
        2,
      ).map((s) => s.toFixed(2));
    expect(shares(contentsAsDefined(yard))).toEqual(["143.05", "50.59", "12.65", "24.34", "8.37"]);
    expect(shares(changed(yard, { 2: null }))).toEqual(["151.04", "53.42", "25.70", "8.84"]);
  });
});

describe("what may be changed in a set", () => {
  const problems = (kit: KitCopy, ordered: OrderedContent[]) =>
    checkContents(kit, ordered, (item) => `I${item}`).map(({ at, field, code }) => `${at} ${field} ${code}`);
  it("lets through what the kit allows", () => {
    const allowed = changed(yard, { 1: { item: SUIT_L }, 2: null, 4: { quantity: d(3) } });
    expect(problems(yard, allowed)).toEqual([]);
    expect(problems(club, [{ of: null, item: JAR, quantity: d(1) }])).toEqual([]);
    expect(problems(club, [{ of: 0, item: JAR, quantity: d(4) }])).toEqual([]);
  });
  it("refuses what is fixed, each at its place", () => {
    expect(
      problems(yard, changed(yard, { 0: { item: JAR }, 1: { item: JAR }, 3: { quantity: d(2) } })),
    ).toEqual(["0 item content-fixed", "1 item content-not-listed", "3 quantity content-quantity-fixed"]);
    expect(problems(yard, changed(yard, { 0: null }))).toEqual(["null item content-needed"]);
    expect(problems(yard, [...contentsAsDefined(yard), { of: null, item: JAR, quantity: d(1) }])).toEqual([
      "5 item content-not-added",
    ]);
    expect(problems(yard, [...contentsAsDefined(yard), { of: 1, item: SUIT_L, quantity: d(1) }])).toEqual([
      "5 item content-unknown",
    ]);
    expect(problems(club, [{ of: 9, item: JAR, quantity: d(1) }])).toEqual(["0 item content-unknown"]);
  });
});

it("knows a set that is as its kit says, and a kit that has moved on", () => {
  expect(isAsDefined(yard, contentsAsDefined(yard))).toBe(true);
  expect(isAsDefined(yard, changed(yard, { 1: { item: SUIT_L } }))).toBe(false);
  expect(isAsDefined(yard, changed(yard, { 2: null }))).toBe(false);
  expect(sameKit(yard, kitOf([...yard.contents]))).toBe(true);
  expect(sameKit(yard, { ...yard, discount: d(1) })).toBe(false);
  expect(sameKit(yard, kitOf(yard.contents.slice(1)))).toBe(false);
});

it("takes from stock what is in the set, each item once, and nothing for what is not stock-tracked", () => {
  const quantity = fc.integer({ min: 1, max: 9 });
  const ordered = fc.array(fc.record({ item: fc.integer({ min: 1, max: 4 }), quantity }), { maxLength: 8 });
  fc.assert(
    fc.property(ordered, (all) => {
      const contents = all.map(({ item, quantity: n }) => ({ of: null, item, quantity: d(n) }));
      const takes = takenBySet(contents, (item) => item !== 4);
      for (const item of [1, 2, 3])
        expect(Number(takes.get(item)?.toFixed() ?? 0)).toBe(
          all.filter((one) => one.item === item).reduce((n, one) => n + one.quantity, 0),
        );
      expect(takes.has(4)).toBe(false);
    }),
  );
});
