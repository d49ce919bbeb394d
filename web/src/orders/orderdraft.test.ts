import type { OrderSheet } from "@yosegi/contract";
import { expect, it } from "vitest";
import { BLANK, bodyOf, draftOf, fieldOfOrder, type LineDraft, NEW, TEXT, withTaken } from "./orderdraft.ts";

const item = {
  id: 7,
  code: "HTL-J",
  name: "Hive tool",
  unit: "pc",
  packs: [],
  kind: "bought" as const,
  tracking: "none" as const,
};
const line = (quantity: string): LineDraft => ({ ...BLANK, item, quantity });
const text = (words: string): LineDraft => ({ ...TEXT, text: words });

it("texts are sent with how many lines stand before them; empty lines are room to go on", () => {
  const lines = [text("First"), line("1"), BLANK, text(""), text("Then"), line("2"), text("Last")];
  const body = bodyOf({ ...NEW, customer: { id: 3, name: "Club" }, lines });
  expect(body.lines.map(({ quantity }) => quantity)).toEqual(["1", "2"]);
  expect(body.texts).toEqual([
    { before: 0, text: "First" },
    { before: 1, text: "Then" },
    { before: 2, text: "Last" },
  ]);
  // What is wrong with one stands at its own field.
  expect(fieldOfOrder("texts.1.text", { lines })).toBe("lines.4.text");
  expect(fieldOfOrder("lines.1.quantity", { lines })).toBe("lines.5.quantity");
  expect(fieldOfOrder("customer", { lines })).toBe("customer");
});

it("an order opens with its texts where they stand, and one that stands after fewer lines than there were at the end", () => {
  const sheet = {
    orderLines: [
      {
        id: 1,
        item,
        quantity: "1",
        price: null,
        pricePer: "",
        discount: "0",
        promised: null,
        serial: "",
        set: null,
      },
    ],
    texts: [
      { before: 0, text: "First" },
      { before: 9, text: "Last" },
    ],
    promised: null,
    customer: { id: 3, code: "C", name: "Club" },
    stage: "quote",
    validUntil: "2026-12-01",
  } as unknown as OrderSheet;
  const draft = draftOf(sheet);
  expect(draft.lines.map((one) => (one.isText ? one.text : one.quantity))).toEqual(["First", "1", "Last"]);
  expect([draft.isQuote, bodyOf(draft).validUntil]).toEqual([true, "2026-12-01"]);
  // A quote without a day is refused at that field, and never becomes an order.
  expect(bodyOf({ ...draft, validUntil: "" }).validUntil).toBe("");
});

it("lines that are read from a message come after what is typed, in the place of empty ones", () => {
  const taken = {
    item: { ...item, decimals: 0, state: "active" as const, notStockTracked: false, thumbnail: null },
    quantity: "5",
    price: "",
    pricePer: "",
    discount: "",
    contents: null,
  };
  const lines = withTaken([line("1"), BLANK, text("Note")], [taken]);
  expect(lines.map((one) => (one.isText ? one.text : one.quantity))).toEqual(["1", "Note", "5"]);
});
