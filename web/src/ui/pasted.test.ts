import { describe, expect, it } from "vitest";
import { isPastedTable, pastedTable } from "./pasted.ts";

describe("what is pasted", () => {
  it("is rows where it has cells or lines, and one value otherwise", () => {
    expect(["BOX-D\t2", "BOX-D\nROOF-M", "BOX-D\r\nROOF-M\r\n"].map(isPastedTable)).toEqual([
      true,
      true,
      true,
    ]);
    expect(["BOX-D", "BOX-D\n", "two words "].map(isPastedTable)).toEqual([false, false, false]);
  });
  it("is read as spreadsheets write it: quotes, tabs and breaks within a cell, rows of any length", async () => {
    expect(await pastedTable('BOX-D\t2\tpc\r\n"a ""deep"" box\nof 2"\t1\r\n\r\n x \t7 " long\n')).toEqual([
      ["BOX-D", "2", "pc"],
      ['a "deep" box\nof 2', "1"],
      ["x", '7 " long'],
    ]);
  });
});
