import type { LineRead } from "@yosegi/contract";
import { expect, it } from "vitest";
import { beginSettling, isSettled, takenLines, tooMany, wordsToRemember } from "./settling.ts";

const item = (id: number, code: string) =>
  ({ id, code, name: code, unit: "pc", packs: [] }) as unknown as LineRead["items"][number];
const kit = item(1, "KIT-YARD");
const suit = item(2, "SUIT-L");
const read = (change: Partial<LineRead>): LineRead => ({
  text: "",
  words: "",
  quantity: "1",
  certain: true,
  items: [kit],
  changes: [],
  price: null,
  pricePer: "",
  discount: "0",
  ...change,
});
const swapped = { line: 0, swapped: suit, instead: item(3, "SUIT-M"), contents: [] };

it("what is certain is taken as it is, a greeting is left out, and the rest is open", () => {
  const lines = [
    read({ quantity: "12" }),
    read({ quantity: null, certain: false, items: [] }),
    read({ certain: false }),
    read({ quantity: "0" }),
  ].map(beginSettling);
  expect(lines.map((one) => [isSettled(one), one.isLeftOut])).toEqual([
    [true, false],
    [true, true],
    [false, false],
    [false, false],
  ]);
  expect(takenLines(lines).map(({ quantity }) => quantity)).toEqual(["12"]);
});

it("a line that is part of the one before leaves it the rest, and its words name what goes in", () => {
  const [first, second] = [
    read({ quantity: "12", words: "first-year sets" }),
    read({ quantity: "3", certain: false, words: "large suits", items: [], changes: [swapped] }),
  ].map(beginSettling);
  if (!first || !second) throw new Error("two lines were read");
  const part = { ...second, item: kit, change: swapped, isPart: true };
  expect(takenLines([first, part]).map(({ quantity }) => quantity)).toEqual(["9", "3"]);
  expect(takenLines([first, { ...part, isPart: false }]).map(({ quantity }) => quantity)).toEqual([
    "12",
    "3",
  ]);
  expect([tooMany([first, part]), tooMany([first, { ...part, quantity: "13" }])]).toEqual([[], [1]]);
  expect(wordsToRemember([first, part])).toEqual([{ words: "large suits", item: suit.id }]);
  expect(wordsToRemember([first, { ...part, isLeftOut: true }])).toEqual([]);
});
