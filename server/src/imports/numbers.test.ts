import { routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { fileOf } from "../testing/demo.ts";
import type { World } from "../testing/open.ts";
import { bareWorld } from "../testing/world.ts";

const check = (world: World, text: string, change: object = {}) =>
  world.ok(routes.checkImport, { body: { files: [fileOf("items", text, change)], update: false, job: "n" } });

const HEAD = "code;name;kind;unit;cost";

const costs = async (text: string, change: object = {}) => {
  const world = await bareWorld();
  const report = await check(world, text, change);
  const body = { files: [fileOf("items", text, change)], update: false, job: "n", token: report.token };
  await world.ok(routes.import, { body: { ...body, goodRowsOnly: false } });
  const sheets = await Promise.all(
    ["A-1", "A-2"].map(async (code) => world.ok(routes.item, { params: { id: await world.idOf(code) } })),
  );
  return { decimal: report.files[0]?.decimal, costs: sheets.map((sheet) => sheet.cost) };
};

describe("a file has one way to write numbers", () => {
  it("which one of them tells for all", async () => {
    const text = `${HEAD}\r\nA-1;Oak;bought;m;1.250,50\r\nA-2;Ash;bought;m;2.000`;
    expect(await costs(text)).toEqual({ decimal: ",", costs: ["1250.5", "2000"] });
  });
  it("which is asked where none of them tells, and nothing is read until then", async () => {
    const world = await bareWorld();
    const text = `${HEAD}\r\nA-1;Oak;bought;m;2.000\r\nA-2;Ash;bought;m;12`;
    const unclear = await check(world, text);
    expect(unclear.files).toMatchObject([{ decimal: "unclear", rows: 0 }]);
    expect(unclear.problems.map((p) => [p.kind, p.value, p.message])).toEqual([
      [
        "items",
        "2.000",
        "“2.000” can be read in two ways. Choose how this file writes decimals: 1.5 or 1,5.",
      ],
    ]);
    expect(await costs(text, { decimal: "." })).toEqual({ decimal: ".", costs: ["2", "12"] });
    expect(await costs(text, { decimal: "," })).toEqual({ decimal: ",", costs: ["2000", "12"] });
  });
  it("which is a point where commas part the fields", async () => {
    const text = "code,name,kind,unit,cost\r\nA-1,Oak,bought,m,2.000\r\nA-2,Ash,bought,m,0.012";
    expect(await costs(text)).toEqual({ decimal: ".", costs: ["2", "0.012"] });
  });
  it("is not the one of what is quoted otherwise in it: both ways in one file are asked about", async () => {
    const world = await bareWorld();
    const text = `${HEAD}\r\nA-1;Oak;bought;m;1.5\r\nA-2;Ash;bought;m;2,5`;
    expect((await check(world, text)).files[0]?.decimal).toBe("unclear");
  });
});

it("a column may be called anything, as JavaScript's own names too", async () => {
  const world = await bareWorld();
  const report = await check(world, "code,name,kind,unit,constructor,__proto__\r\nA-1,Oak,bought,m,x,y");
  expect(report.problems).toEqual([]);
  expect(report.files[0]?.theirs).toEqual(["code", "name", "kind", "unit", "constructor", "__proto__"]);
});
