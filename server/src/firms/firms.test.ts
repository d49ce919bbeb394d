import { routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { fileOf } from "../testing/demo.ts";
import { bareWorld, demoWorld, fieldsOf } from "../testing/world.ts";

const firm = (code: string, more: object = {}) => ({
  kind: "supplier",
  code,
  name: `Firm ${code}`,
  address: "1 Quay\nHalm",
  contact: "Greta Voss",
  email: "office@halm.example",
  phone: "+00 555 0140",
  terms: "30 days net",
  ...more,
});

describe("suppliers and customers", () => {
  it("are made, searched by code, name or contact without accents, and told what they supply", async () => {
    const world = await demoWorld();
    await world.ok(routes.newFirm, { body: firm("CAFE", { name: "Café Lindén", contact: "" }) });
    const found = async (search: string) =>
      (await world.ok(routes.firms, { query: { kind: "supplier", search } })).firms.map((f) => f.code);
    expect([await found("cafe lin"), await found("aldane"), await found("no such")]).toEqual([
      ["CAFE"],
      ["NORR"],
      [],
    ]);
    const { firms } = await world.ok(routes.firms, { query: { kind: "supplier", search: "CALD" } });
    const sheet = await world.ok(routes.firm, { params: { id: firms[0]?.id ?? 0 } });
    expect(sheet.supplies.find((s) => s.code === "GLV-M")).toMatchObject({
      price: "8.9",
      leadDays: 12,
      preferred: false,
    });
  });
  it("have a code of their own among those of their kind, whatever its case", async () => {
    const world = await bareWorld();
    const first = await world.ok(routes.newFirm, { body: firm("HALM") });
    expect(fieldsOf((await world.call(routes.newFirm, { body: firm("halm") })).error)).toEqual([
      "code firm-taken",
    ]);
    // a customer may have the same
    await world.ok(routes.newFirm, { body: firm("HALM", { kind: "customer" }) });
    await world.ok(routes.newFirm, { body: firm("NORR") });
    const { kind: _, ...change } = firm("NORR");
    const taken = await world.call(routes.changeFirm, {
      params: { id: first.id },
      body: { ...change, archived: false },
    });
    expect(fieldsOf(taken.error)).toEqual(["code firm-taken"]);
  });
  it.each([
    ["an e-mail address without an @", { email: "office" }, "email"],
    ["no name", { name: " " }, "name"],
    ["a code with spaces", { code: "A B" }, "code"],
  ])("are refused with %s, at its field", async (_, change, field) => {
    const world = await bareWorld();
    const { error } = await world.call(routes.newFirm, { body: firm("HALM", change) });
    expect(error.fields.map((f) => f.field)).toEqual([field]);
  });
  it("are archived, kept for what was, and brought back", async () => {
    const world = await bareWorld();
    const { id } = await world.ok(routes.newFirm, { body: firm("HALM") });
    const { kind: _, ...body } = firm("HALM");
    expect(
      (await world.ok(routes.changeFirm, { params: { id }, body: { ...body, archived: true } })).archived,
    ).toBe(true);
    expect(
      (await world.ok(routes.changeFirm, { params: { id }, body: { ...body, archived: false } })).archived,
    ).toBe(false);
    expect((await world.call(routes.firm, { params: { id: 99 } })).status).toBe(404);
  });
});

it("firms come in pages, archived ones too, and are found by a search", async () => {
  const world = await bareWorld();
  const rows = Array.from({ length: 101 }, (_, i) => `C-${i + 1},Customer ${i + 1}`);
  const file = fileOf("customers", ["code,name", ...rows].join("\r\n"));
  const files = { files: [file], update: false, job: "firms" };
  const { token } = await world.ok(routes.checkImport, { body: files });
  await world.ok(routes.import, { body: { ...files, token, goodRowsOnly: false } });
  await world.store.db.query("UPDATE firm SET archived = 1");
  const { firms, total, next } = await world.ok(routes.firms, { query: { kind: "customer" } });
  const rest = await world.ok(routes.firms, { query: { kind: "customer", after: next ?? "" } });
  expect([firms.length, total, rest.firms.length, rest.next]).toEqual([100, 101, 1, null]);
  const found = await world.ok(routes.firms, { query: { kind: "customer", search: "c-1" } });
  expect(found.firms.some((firm) => firm.code === "C-1")).toBe(true);
});
