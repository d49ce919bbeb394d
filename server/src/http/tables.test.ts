import readXlsx from "read-excel-file/node";
import { describe, expect, it } from "vitest";
import { tableBytes } from "./tables.ts";

const COLUMNS = [{ name: "part" }, { name: "note" }, { name: "free", figures: true }];
const ROWS = [
  ["BOX-D", 'deep, "jointed"', "53"],
  ["FND-D", "=SUM(A1)", "-60"],
  ["0012", "+49 555", "1.250"],
  ["TAG-1", "-", "unknown"],
];

describe("a table as a spreadsheet", () => {
  it("is CSV with a mark of its encoding; what looks like a formula is quoted, figures below zero are not", async () => {
    const { name, type, content } = await tableBytes("check", COLUMNS, ROWS, "csv");
    expect([name, type, content.subarray(0, 3)]).toEqual([
      "check.csv",
      "text/csv; charset=utf-8",
      Buffer.from([0xef, 0xbb, 0xbf]),
    ]);
    expect(content.toString("utf8").slice(1).split("\r\n")).toEqual([
      "part,note,free",
      'BOX-D,"deep, ""jointed""",53',
      "FND-D,'=SUM(A1),-60",
      "0012,'+49 555,1.250",
      "TAG-1,'-,unknown",
      "",
    ]);
  });
  it("is XLSX with figures to add up, and codes as they are", async () => {
    const { name, content } = await tableBytes("check", COLUMNS, ROWS, "xlsx");
    const [sheet] = await readXlsx(content);
    const rows = sheet && "data" in sheet ? sheet.data : await readXlsx(content);
    expect(name).toBe("check.xlsx");
    expect(JSON.parse(JSON.stringify(rows))).toEqual([
      ["part", "note", "free"],
      ["BOX-D", 'deep, "jointed"', 53],
      ["FND-D", "=SUM(A1)", -60],
      ["0012", "+49 555", 1.25],
      ["TAG-1", "-", "unknown"],
    ]);
  });
});
