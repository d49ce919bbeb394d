import { routes } from "@yosegi/contract";
import { strToU8, unzipSync, zipSync } from "fflate";
import { describe, expect, it } from "vitest";
import writeXlsx from "write-excel-file/node";
import { fileOf } from "../testing/demo.ts";
import { bareWorld } from "../testing/world.ts";

/** A workbook of one sheet with a single cell at a place, or any other content of the sheet. */
async function workbook(sheetData: string): Promise<Buffer> {
  const plain = await writeXlsx([[{ value: "code", type: String }]]).toBuffer();
  const files = unzipSync(plain);
  const name = Object.keys(files).find((path) => /worksheets\/sheet1\.xml$/.test(path)) ?? "";
  const xml = new TextDecoder().decode(files[name]);
  const changed = xml
    .replace(/<sheetData>.*<\/sheetData>/s, `<sheetData>${sheetData}</sheetData>`)
    .replace(/<dimension [^>]*>/, "");
  return Buffer.from(zipSync({ ...files, [name]: strToU8(changed) }));
}

const cellAt = (place: string) =>
  `<row r="${place.replace(/\D/g, "")}"><c r="${place}" t="str"><v>x</v></c></row>`;

describe("a workbook that would end the server", () => {
  const refused = async (content: Buffer) => {
    const world = await bareWorld();
    const body = { files: [fileOf("items", content, { name: "items.xlsx" })], update: false, job: "big" };
    const asked = world.call(routes.checkImport, { body });
    // Others are answered while it is read.
    expect((await world.call(routes.people)).status).toBe(200);
    const { status, error } = await asked;
    return [status, error.fields?.[0]?.code];
  };
  it("by a cell far down", async () => {
    expect(await refused(await workbook(cellAt("A99999999")))).toEqual([422, "sheet-too-large"]);
  });
  it("by a cell far to the right", async () => {
    expect(await refused(await workbook(cellAt("XFD10000")))).toEqual([422, "sheet-too-large"]);
  });
  it("by what it unpacks to", async () => {
    const bomb = zipSync({ "xl/worksheets/sheet1.xml": new Uint8Array(250_000_000).fill(32) });
    expect(bomb.length).toBeLessThan(1_000_000);
    expect(await refused(Buffer.from(bomb))).toEqual([422, "sheet-too-large"]);
  });
  it("by content that is broken, empty, or no number", async () => {
    const broken = await workbook("<row><c r=");
    expect((await refused(broken))[0]).toBe(422);
    const empty = Buffer.from(zipSync({ "xl/worksheets/sheet1.xml": new Uint8Array() }));
    expect((await refused(empty))[0]).toBe(422);
  });
});
