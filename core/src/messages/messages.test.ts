import { describe, expect, it } from "vitest";
import { decimal } from "../amounts/index.ts";
import { ItemNames, type NamedItem, wordsKey } from "./matching.ts";
import { delimiterOf, readMessage, readRows, writtenQuantity } from "./reading.ts";
import { partsTooMany, quantitiesLeft } from "./settling.ts";

const said = (text: string) =>
  readMessage(text).map(({ quantity, words, isChange }) =>
    [quantity?.toFixed() ?? "?", words, ...(isChange ? ["change"] : [])].join(" "),
  );

describe("a message", () => {
  it.each([
    ["12 first-year sets, 3 with large suits", ["12 first-year sets", "3 with large suits change"]],
    ["Please send 2 hive tools and 5 smokers.", ["2 hive tools", "5 smokers"]],
    ["Hello Ines,\nwe need:\n- 6 x KIT-TOOL\n- hive tool: 4\n", ["? Ines", "6 KIT-TOOL", "4 hive tool"]],
    ["a dozen jars of honey; 3x gloves", ["12 jars of honey", "3 gloves"]],
    ["twenty frames plus two smokers", ["20 frames", "2 smokers"]],
    ["1) 4 crown boards\n2) 2,5 kg honey in bulk", ["4 crown boards", "2.5 kg honey in bulk"]],
    ["HTL-J x 10\nSMK-S 2 pcs", ["10 HTL-J", "2 SMK-S"]],
    // A comma in a name parts nothing, and a figure in a name is no quantity.
    ["40 frame bars, deep\nthe usual smoker", ["40 frame bars, deep", "? usual smoker"]],
    ["12canisters", ["12 canisters"]],
  ])("%j", (text, lines) => {
    expect(said(text)).toEqual(lines);
  });

  it("takes no quantity that may mean two things", () => {
    const read = (text: string) => writtenQuantity(text)?.toFixed() ?? null;
    expect(["12", "2,5", "2.25", "0.4545"].map(read)).toEqual(["12", "2.5", "2.25", "0.4545"]);
    expect(["1.200", "1,200", "1.2.3", "", "many"].map(read)).toEqual([null, null, null, null, null]);
  });
});

describe("a list", () => {
  const rows = (list: string[][]) =>
    readRows(list).map(({ quantity, cells, price, discount }) =>
      [quantity?.toFixed() ?? "?", cells.join("|"), price, discount].filter(Boolean).join(" "),
    );
  it("is read by its heads, or by what its cells look like", () => {
    expect(
      rows([
        ["Pos", "Item", "Name", "Qty", "Price", "Discount"],
        ["1", "HTL-J", "Hive tool", "12", "9.60", "5"],
        ["2", "", "smoker", "", "", ""],
      ]),
    ).toEqual(["12 HTL-J|Hive tool 9.60 5", "? smoker"]);
    expect(
      rows([
        ["KIT-YARD", "3"],
        ["2900001000024", "10"],
      ]),
    ).toEqual(["3 KIT-YARD", "10 2900001000024"]);
    expect(
      rows([
        ["what", "how many"],
        ["hive tool", "10"],
        ["", ""],
      ]),
    ).toEqual(["10 hive tool"]);
  });
  it("is told from a message by what parts its cells", () => {
    expect(["HTL-J\t2\nSMK-S\t1", "HTL-J;2", "code,qty\nHTL-J,2"].map(delimiterOf)).toEqual(["\t", ";", ","]);
    expect(["12 first-year sets, 3 with large suits", "hive tool 2", ""].map(delimiterOf)).toEqual([
      null,
      null,
      null,
    ]);
  });
});

const ITEMS: NamedItem[] = [
  { id: 1, code: "KIT-YARD", name: "First-year set", barcode: "" },
  { id: 2, code: "SUIT-L", name: "Bee suit with veil, L", barcode: "" },
  { id: 3, code: "SUIT-M", name: "Bee suit with veil, M", barcode: "" },
  { id: 4, code: "HTL-J", name: "Hive tool", barcode: "2900001000024" },
  { id: 5, code: "HIVE-N", name: "Hive, complete", barcode: "" },
  { id: 6, code: "SMK-S", name: "Smoker", barcode: "" },
  { id: 7, code: "BOX", name: "Smoker", barcode: "" },
];

describe("what words name", () => {
  const names = new ItemNames(ITEMS, new Map([[wordsKey("the big pliers"), 4]]));
  const found = (...texts: string[]) => {
    const { certain, matches } = names.find(texts);
    return [certain, ...matches.map(({ item, by }) => `${item} ${by}`)];
  };
  it("is certain by a code, a barcode, a whole name in any case and number, or what the customer calls it", () => {
    expect(found("htl-j")).toEqual([true, "4 code"]);
    expect(found("2900001000024")).toEqual([true, "4 code"]);
    expect(found("first-year sets")).toEqual([true, "1 name"]);
    expect(found("Big plier")).toEqual([true, "4 own"]);
    expect(found("first-year set (KIT-YARD)")).toEqual([true, "1 code"]);
    expect(found("", "HIVE-N", "hive")).toEqual([true, "5 code"]);
  });
  it("is uncertain where two items have it, and by some of the words or a slip of the pen", () => {
    expect(found("smokers")).toEqual([false, "6 name", "7 name"]);
    // A row with the code of one item and the name of another; one whose code says which of two of that name.
    expect(found("HTL-J", "Smoker", "HTL-J Smoker")).toEqual([false, "4 code", "6 name", "7 name"]);
    expect(found("SMK-S", "Smoker", "SMK-S Smoker")).toEqual([true, "6 code"]);
    expect(found("KIT-YARD without gloves")).toEqual([false, "1 code"]);
    expect(found("HTL-J or SMK-S")).toEqual([false, "4 code", "6 code"]);
    expect(found("hive tols")).toEqual([false, "4 similar", "5 similar"]);
    expect([found("large suits"), found("medium suit")].map((one) => one.slice(0, 2))).toEqual([
      [false, "2 similar"],
      [false, "3 similar"],
    ]);
    expect(found("suit veil").slice(1)).toEqual(["2 similar", "3 similar"]);
    expect([found("garden chairs"), found("")]).toEqual([[false], [false]]);
  });
});

it("3 of 12 leave 9, and never more than there are", () => {
  const line = (quantity: string, of: number | null = null) => ({ quantity: decimal(quantity), of });
  const left = (...lines: ReturnType<typeof line>[]) => quantitiesLeft(lines).map((one) => one.toFixed());
  expect(left(line("12"), line("3", 0), line("4"))).toEqual(["9", "3", "4"]);
  expect(left(line("12"), line("3", 0), line("9", 0))).toEqual(["0", "3", "9"]);
  expect(partsTooMany([line("12"), line("3", 0), line("9", 0)])).toEqual([]);
  expect(partsTooMany([line("12"), line("3", 0), line("10", 0)])).toEqual([2]);
});
