import { newItem as newItemSchema, routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { bareWorld, demoWorld, fieldsOf } from "../testing/world.ts";

const item = (change: object = {}) => ({
  code: "BOX-E",
  name: "Hive box, shallow",
  kind: "bought",
  unit: "pc",
  tracking: "none",
  cost: "7.10",
  price: null,
  store: "Front store",
  bin: "01-B",
  ...change,
});

const line = (part: string, quantity: string, unit: string, change: object = {}) => ({
  part,
  quantity,
  unit,
  waste: "0",
  oncePerBuild: false,
  ...change,
});

const list = (...lines: object[]) => ({ makes: "1", usual: "1", overhead: "0", lines });

describe("items", () => {
  it("are made with their home bin, and found by words of code and name", async () => {
    const { ok } = await demoWorld();
    const made = await ok(routes.newItem, { body: item() });
    expect(made).toMatchObject({ code: "BOX-E", onHand: "0", unitCost: "7.1000", hasList: false });
    expect((await ok(routes.items, { query: { search: "BOX hive" } })).items.map((i) => i.code)).toEqual([
      "BOX-D",
      "BOX-E",
    ]);
    const stores = await ok(routes.stores, {});
    expect(stores.stores[0]?.bins).toContain("01-B");
  });
  it("put a code that begins with the search first", async () => {
    const { ok } = await demoWorld();
    const { items } = await ok(routes.items, { query: { search: "hive", limit: 3 } });
    expect(items.slice(0, 2).map((i) => i.code)).toEqual(["HIVE-C", "HIVE-N"]);
  });
  it.each([
    ["a code that is there, in other case", { code: "box-d" }, "code code-taken"],
    ["an unknown unit", { unit: "crate" }, "unit unit-unknown"],
    ["an unknown store", { store: "Attic" }, "store store-unknown"],
    ["a negative cost", { cost: "-1" }, "cost invalid-input"],
    ["serial numbers by the litre", { unit: "L", tracking: "serial" }, "unit serial-unit"],
  ])("refuse %s at its field", async (_, change, field) => {
    const { call, ok } = await demoWorld();
    const before = (await ok(routes.items, {})).total;
    expect(fieldsOf((await call(routes.newItem, { body: item(change) })).error)).toEqual([field]);
    expect((await ok(routes.items, {})).total).toBe(before);
  });
  it("keep the unit, tracking and kind that history is told in; all else may change", async () => {
    const { call, ok, idOf } = await demoWorld();
    const id = await idOf("CAN-12");
    const { code: _, ...body } = newItemSchema.parse(item({ name: "Canister, blue", cost: "2.30" }));
    expect((await ok(routes.changeItem, { params: { id }, body })).name).toBe("Canister, blue");
    const { status, error } = await call(routes.changeItem, {
      params: { id },
      body: { ...body, unit: "pair" },
    });
    expect([status, error.message]).toEqual([
      409,
      "You can't change the unit of CAN-12: it has stock movements. Copy it to a new item and change that.",
    ]);
  });
  it("tell current unit cost by docs/rules.md § 5: pool, then last issue, then list or standard", async () => {
    const { ok, idOf } = await demoWorld();
    const cost = async (code: string) =>
      (await ok(routes.item, { params: { id: await idOf(code) } })).unitCost;
    expect(await cost("SYR-72")).toBe("1.3500");
    expect(await cost("HIVE-C")).not.toBeNull();
    expect(await cost("EXT-2R")).toBeNull();
    expect(await cost("LAB-B")).toBe("32.0000");
  });
});

describe("parts lists", () => {
  it("are written whole, with what they are expected to cost", async () => {
    const { ok, idOf } = await demoWorld();
    const id = await idOf("FEED-12");
    const sheet = await ok(routes.item, { params: { id } });
    expect(sheet.list?.expected).toMatchObject({
      materials: "390.7350",
      work: "16.0000",
      overhead: "3.0000",
      total: "409.7350",
      each: "20.4868",
    });
    const saved = await ok(routes.saveList, {
      params: { id },
      body: list(line("CAN-12", "1", "pc"), line("SYR-72", "12500", "mL")),
    });
    expect(saved.lines.map((l) => `${l.part.code} ${l.quantity} ${l.unit}`)).toEqual([
      "CAN-12 1 pc",
      "SYR-72 12500 mL",
    ]);
    expect(saved.expected.each).toBe("18.9750");
  });
  it.each([
    ["the product itself", line("frm-a", "1", "pc"), "lines.0.part part-is-product"],
    ["a part that is not there", line("FRM-Z", "1", "pc"), "lines.0.part item-unknown"],
    ["a part that leads back to it", line("HIVE-N", "1", "pc"), "lines.0.part parts-circle"],
    ["half a piece", line("FRM-D", "0.5", "pc"), "lines.0.quantity decimals"],
    ["more decimals than a litre has", line("GLUE-W", "0.0005", "L"), "lines.0.quantity decimals"],
    ["a unit of another dimension", line("GLUE-W", "5", "g"), "lines.0.unit unit-dimension"],
    ["nothing of a part", line("FRM-D", "0", "pc"), "lines.0.quantity invalid-input"],
    ["text in a number", line("FRM-D", "two", "pc"), "lines.0.quantity invalid-input"],
    ["waste below zero", line("FRM-D", "1", "pc", { waste: "-1" }), "lines.0.waste invalid-input"],
  ])("refuse %s", async (_, bad, field) => {
    const { call, ok, idOf } = await demoWorld();
    const id = await idOf("FRM-A");
    expect(fieldsOf((await call(routes.saveList, { params: { id }, body: list(bad) })).error)).toEqual([
      field,
    ]);
    expect((await ok(routes.item, { params: { id } })).list?.lines.length).toBe(5);
  });
  it("belong to built items only", async () => {
    const { call, idOf } = await demoWorld();
    const answer = await call(routes.saveList, {
      params: { id: await idOf("BOX-D") },
      body: list(line("CAN-12", "1", "pc")),
    });
    expect(fieldsOf(answer.error)).toEqual(["product not-built"]);
  });
});

describe("people", () => {
  it("are added once each, whatever the case", async () => {
    const { call, ok } = await bareWorld();
    await ok(routes.addPerson, { body: { name: "Tobias" } });
    expect(fieldsOf((await call(routes.addPerson, { body: { name: "tobias" } })).error)).toEqual([
      "name person-taken",
    ]);
    expect((await ok(routes.people, {})).people.map((p) => p.name)).toEqual(["Ines", "Tobias"]);
  });
});

describe("the scan field", () => {
  it("finds codes in any case, lots, serials, bins, documents and names", async () => {
    const { ok, queued } = await demoWorld();
    await queued("FEED-12", "8");
    const first = async (text: string) => {
      const { hits } = await ok(routes.find, { query: { text } });
      return hits.map((h) => `${h.kind} ${h.text} ${h.exact}`)[0];
    };
    expect(await first("frm-a")).toBe("item FRM-A true");
    expect(await first("b-1")).toBe("build B-1 true");
    expect(await first("HS-118")).toBe("lot HS-118 true");
    expect(await first("SC-2042")).toBe("serial SC-2042 true");
    expect(await first("07-b")).toBe("bin 07-B true");
    expect(await first("I-1")).toBe("document I-1 true");
    expect(await first("gimp")).toBe("item PIN-20 false");
    expect(await first("nothing such")).toBeUndefined();
  });
});
