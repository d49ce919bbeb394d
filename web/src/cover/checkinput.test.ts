import { numberMarks } from "@yosegi/core";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  type CheckInput,
  checkAddress,
  inputOf,
  NOTHING_SUPPOSED,
  NOTHING_WANTED,
  pastedRows,
  questionOf,
  readInput,
  supposedQuestion,
  writeInput,
} from "./checkinput.ts";

const input = (more: Partial<CheckInput>): CheckInput => ({
  wanted: [NOTHING_WANTED],
  store: "",
  supposing: false,
  supposed: NOTHING_SUPPOSED,
  ...more,
});
const wanted = (item: number, quantity: string, more: object = {}) => ({
  ...NOTHING_WANTED,
  item,
  quantity,
  ...more,
});

describe("a check in an address", () => {
  it("is short for one product, and begins with an empty line", () => {
    expect(String(writeInput(input({ wanted: [wanted(38, "40")] })))).toBe("want=38%3B40");
    expect(readInput(new URLSearchParams())).toEqual(input({}));
    expect(readInput(new URLSearchParams("want=38")).wanted).toEqual([wanted(38, "")]);
  });
  it("is read back as it was written, whatever is asked and supposed", () => {
    const text = fc.string({ unit: fc.constantFrom("4", "0", ".", "-", "b", " "), maxLength: 6 });
    const id = fc.integer({ min: 1, max: 99 });
    const any = fc.record({
      wanted: fc.array(
        fc.record({
          item: id,
          quantity: text,
          day: text,
          priority: fc.constantFrom("1", "2"),
          build: fc.constantFrom("", "7"),
          list: fc.constantFrom("", "3"),
          options: fc.constantFrom([], [5], [5, 71]),
        }),
        { minLength: 1, maxLength: 4 },
      ),
      store: fc.constantFrom("", "Yard"),
      supposing: fc.boolean(),
      supposed: fc.record({
        demands: fc.array(
          fc.record({ at: fc.integer({ min: 0, max: 3 }), quantity: text, day: text, list: text }),
          { maxLength: 2 },
        ),
        stock: fc.array(fc.record({ item: id, onHand: text }), { maxLength: 2 }),
        incoming: fc.array(fc.record({ key: fc.constantFrom("line 3", "build 9"), day: text }), {
          maxLength: 2,
        }),
        instead: fc.array(fc.record({ at: id, part: id, by: id, shortOnly: fc.boolean() }), { maxLength: 2 }),
      }),
    });
    fc.assert(
      fc.property(any, (was) => {
        expect(readInput(new URLSearchParams(String(writeInput(was))))).toEqual(was);
      }),
    );
  });
});

describe("the question of a page", () => {
  it("leaves out lines that are still empty, and says what cannot be read at its field", () => {
    const found = questionOf(
      input({ wanted: [NOTHING_WANTED, wanted(38, "40", { day: "2026-12-01" }), wanted(36, "")] }),
    );
    expect([found.places, found.question?.demands.map((d) => [d.item, d.quantity, d.day])]).toEqual([
      [1],
      [[38, "40", "2026-12-01"]],
    ]);
    expect(questionOf(input({ wanted: [wanted(38, "four")] }))).toMatchObject({
      question: null,
      errors: { "demands.0.quantity": "“four” is not a number. Write it like 12.5." },
    });
    expect(questionOf(input({}))).toMatchObject({ question: null, errors: {} });
  });
  it("takes what is supposed over the one that is asked, and nothing of what is left empty", () => {
    const base = questionOf(input({ wanted: [wanted(38, "40"), wanted(36, "5")] })).question;
    if (!base) throw new Error("it can be read");
    const { question } = supposedQuestion(base, {
      demands: [{ at: 1, quantity: "9", day: "", list: "4" }],
      stock: [
        { item: 19, onHand: "60" },
        { item: 20, onHand: "" },
      ],
      incoming: [
        { key: "line 3", day: "2026-12-01" },
        { key: "line 4", day: "" },
      ],
      instead: [{ at: 0, part: 19, by: 20, shortOnly: true }],
    });
    expect(question).toMatchObject({
      demands: [
        { quantity: "40", instead: [{ part: 19, by: 20, shortOnly: true }] },
        { quantity: "9", list: 4, instead: [] },
      ],
      stock: [{ item: 19, onHand: "60" }],
      incoming: [{ key: "line 3", day: "2026-12-01" }],
    });
    expect(question && inputOf(question)).toMatchObject({
      supposing: true,
      supposed: { stock: [{ item: 19 }] },
    });
  });
  it("is led to from elsewhere by an address that it reads again", () => {
    const address = checkAddress([
      { item: 38, quantity: "12", day: "2026-12-04" },
      { item: 36, quantity: "4", day: null },
    ]);
    expect(address).toBe("/check?want=38%3B12%3B2026-12-04&want=36%3B4");
    expect(readInput(new URL(address, "http://localhost").searchParams)).toEqual(
      input({ wanted: [wanted(38, "12", { day: "2026-12-04" }), wanted(36, "4")] }),
    );
  });
  it("reads rows of a spreadsheet: code, quantity and day", () => {
    const cells = [["HIVE-N", "20", "2026-12-12"], ["FEED-12", "1.040,5"], ["alone"]];
    expect(pastedRows(cells, numberMarks("de-DE"))).toEqual([
      { code: "HIVE-N", quantity: "20", day: "2026-12-12" },
      { code: "FEED-12", quantity: "1040.5", day: "" },
    ]);
  });
});
