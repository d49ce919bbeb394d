import { describe, expect, it } from "vitest";
import { needLine, purchaseBody, receiveBody } from "./buying.ts";
import { coverQuestion } from "./cover.ts";
import { routes } from "./index.ts";
import type { Route } from "./route.ts";

const messages = (schema: typeof coverQuestion | typeof purchaseBody | typeof receiveBody, body: unknown) =>
  schema.safeParse(body).error?.issues.map((i) => `${i.path.join(".")}: ${i.message}`) ?? [];

describe("the question of a check", () => {
  it("may be told in a few words; the rest is as it is for most", () => {
    expect(coverQuestion.parse({ demands: [{ item: 38, quantity: "40" }] })).toEqual({
      demands: [
        {
          item: 38,
          quantity: "40",
          day: null,
          priority: 1,
          list: null,
          options: [],
          build: null,
          instead: [],
        },
      ],
      store: "",
      stock: [],
      incoming: [],
    });
  });
  it.each([
    [{ demands: [] }, ["demands: What is wanted?"]],
    [{ demands: [{ item: 1, quantity: "0" }] }, ["demands.0.quantity: The quantity must be more than zero."]],
    [
      { demands: [{ item: 1, quantity: "1", day: "2026-02-30" }] },
      ["demands.0.day: “2026-02-30” isn't a date. Write it like 2026-12-31."],
    ],
    [
      { demands: [1, 2].map((item) => ({ item, quantity: "1", build: 7 })) },
      ["demands.1: This build is named twice."],
    ],
    [
      { demands: [{ item: 1, quantity: "1", priority: 1.5 }] },
      ["demands.0.priority: The priority is a whole number."],
    ],
    [
      { demands: [{ item: 1, quantity: "1" }], stock: [{ item: 2, onHand: "-1" }] },
      ["stock.0.onHand: The quantity cannot be below zero."],
    ],
  ])("refuses what it cannot figure, at its place", (body, said) => {
    expect(messages(coverQuestion, body)).toEqual(said);
  });
  it("stands in an address as JSON, and says so where it is none", () => {
    const { query } = routes.exportCover as Route;
    const text = JSON.stringify({ demands: [{ item: 38, quantity: "40" }] });
    expect(query.safeParse({ question: text, format: "csv" }).success).toBe(true);
    const bad = query.safeParse({ question: "{no", format: "csv" });
    expect(bad.error?.issues.map((i) => i.message)).toEqual(["The question is no JSON."]);
    expect(query.safeParse({ question: '{"demands":[]}', format: "csv" }).success).toBe(false);
  });
});

describe("what is bought and what came", () => {
  it("is told in a few words", () => {
    expect(purchaseBody.parse({ lines: [{ item: 6, quantity: "12" }] })).toEqual({
      note: "",
      lines: [
        {
          id: null,
          item: 6,
          quantity: "12",
          pack: "",
          price: null,
          pricePer: "",
          expected: null,
          costTag: "",
          note: "",
        },
      ],
    });
    expect(needLine.parse({ item: 6, quantity: "12" })).toMatchObject({ supplier: null, for: [] });
    expect(receiveBody.parse({ day: "2026-11-23", lines: [{ line: 1, quantity: "0" }] })).toMatchObject({
      more: false,
      lines: [{ price: null, store: "", bin: "", lots: [], serials: [], close: false }],
    });
  });
  it.each([
    [purchaseBody, { lines: [] }, ["lines: A purchase order has at least one line."]],
    [purchaseBody, { lines: [{ item: 6, quantity: "" }] }, ["lines.0.quantity: The quantity is missing."]],
    [
      purchaseBody,
      { lines: [{ item: 6, quantity: "1", price: "1.23456" }] },
      ["lines.0.price: The cost may have up to 4 decimals."],
    ],
    [
      receiveBody,
      { day: "soon", lines: [{ line: 1, quantity: "1" }] },
      ["day: “soon” isn't a date. Write it like 2026-12-31."],
    ],
    [receiveBody, { day: "2026-11-23", lines: [] }, ["lines: What came?"]],
  ] as const)("is refused at its field", (schema, body, said) => {
    expect(messages(schema, body)).toEqual(said);
  });
});
