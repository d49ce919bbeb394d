import { routes } from "@yosegi/contract";
import { afterEach, describe, expect, it } from "vitest";
import { handReceipt, takeIn } from "../testing/companies.ts";
import { leaving, orderOf, shipmentOf } from "../testing/ordering.ts";
import { closeWorlds, demoWorld, fieldsOf, finishOf, TODAY, type World } from "../testing/world.ts";

afterEach(closeWorlds);

const card = (world: World, item: number, more: object) =>
  world.ok(routes.piece, { query: { item, ...more } });

describe("the card of a lot", () => {
  it("says when it was made and by when it is to be used, and follows what a person puts right", async () => {
    const world = await demoWorld();
    const item = await world.idOf("SYR-72");
    await takeIn(world, item, "5", {
      lot: "S-NEW",
      expiry: "2027-05-01",
      madeOn: "2026-11-01",
      store: "Yard",
    });
    const got = await card(world, item, { lot: "S-NEW" });
    expect(got).toMatchObject({
      madeOn: "2026-11-01",
      expiry: "2027-05-01",
      makerNumber: "",
      warranty: null,
    });
    const change = {
      item,
      lot: "S-NEW",
      madeOn: "2026-11-02",
      expiry: "2026-11-22",
      makerNumber: "HSG 77-1",
    };
    const free = async () => (await world.ok(routes.item, { params: { id: item } })).free;
    const before = Number(await free());
    expect((await world.ok(routes.changePiece, { body: change })).makerNumber).toBe("HSG 77-1");
    // It expired yesterday, so that it is not free any more.
    expect(Number(await free())).toBe(before - 5);
    const later = await world.call(routes.changePiece, { body: { ...change, madeOn: "2026-11-24" } });
    expect(fieldsOf(later.error)).toEqual(["madeOn day-future"]);
    const sooner = await world.call(routes.changePiece, { body: { ...change, expiry: "2026-11-01" } });
    expect(fieldsOf(sooner.error)).toEqual(["expiry expiry-before-made"]);
    const none = await world.call(routes.piece, { query: { item, lot: "no such" } });
    expect(fieldsOf(none.error)).toEqual(["lot not-found"]);
    const neither = await world.call(routes.piece, { query: { item } });
    expect(fieldsOf(neither.error)).toEqual(["lot piece-needed"]);
    const future = { lot: "S-F", madeOn: "2026-11-24" };
    const received = await world.call(routes.receive, { body: handReceipt(item, "1", future) });
    expect(fieldsOf(received.error)).toEqual(["lines.0.madeOn day-future"]);
  });
});

describe("the card of a unit", () => {
  it("says what is in it, which build made it, when, and its warranty once it was shipped", async () => {
    const world = await demoWorld();
    const item = await world.idOf("HIVE-C");
    const sheet = await world.ok(routes.item, { params: { id: item } });
    await world.ok(routes.changeItem, {
      params: { id: item },
      body: { ...sheet, price: "260.00", warrantyMonths: 24 },
    });
    const id = await world.queued("HIVE-C", "2");
    const body = finishOf("2", { serials: ["H-1", "H-2"], madeOn: "2026-11-20", expiry: "2030-01-01" });
    await world.ok(routes.finishBuild, { params: { id }, body });
    const made = await card(world, item, { serial: "H-1" });
    expect(made).toMatchObject({
      madeOn: "2026-11-20",
      expiry: "2030-01-01",
      build: { number: "B-1" },
      gone: "",
      warranty: null,
    });
    expect(made.contents.map(({ item: part, quantity }) => [part.code, quantity])).toEqual([
      ["SCL-E", "1"],
      ["HIVE-N", "1"],
    ]);
    expect(made.contents[0]?.serial).not.toBe("");
    const order = await orderOf(world, [["HIVE-C", "2", "260.00"]]);
    await world.ok(routes.shipOrder, {
      params: { id: order.id },
      body: shipmentOf([leaving(order.orderLines[0])]),
    });
    const shipped = await card(world, item, { serial: "H-1" });
    expect(shipped.warranty).toMatchObject({ from: TODAY, until: "2028-11-23", shipment: { number: "S-1" } });
    expect(shipped.gone).toContain("with a customer");
    const refused = await world.call(routes.writeContents, { body: { item, serial: "H-1", contents: [] } });
    expect(fieldsOf(refused.error)).toEqual(["serial built-here"]);
  });

  it("that was bought may have its contents written down", async () => {
    const world = await demoWorld();
    const item = await world.idOf("SCL-E");
    const bearing = await world.idOf("BRG-6");
    const body = {
      item,
      serial: "SC-2041",
      contents: [{ item: bearing, quantity: "2", lot: "", serial: "" }],
    };
    const got = await world.ok(routes.writeContents, { body });
    expect([got.written, got.contents.map(({ item: part, quantity }) => [part.code, quantity])]).toEqual([
      true,
      [["BRG-6", "2"]],
    ]);
    const half = { ...body, contents: [{ item: bearing, quantity: "0.5" }] };
    expect(fieldsOf((await world.call(routes.writeContents, { body: half })).error)).toEqual([
      "contents.0.quantity decimals",
    ]);
    const itself = { ...body, contents: [{ item, quantity: "1" }] };
    expect(fieldsOf((await world.call(routes.writeContents, { body: itself })).error)).toEqual([
      "contents.0.item not-itself",
    ]);
    const kit = { ...body, contents: [{ item: await world.idOf("KIT-YARD"), quantity: "1" }] };
    expect(fieldsOf((await world.call(routes.writeContents, { body: kit })).error)).toEqual([
      "contents.0.item part-is-kit",
    ]);
    const two = { ...body, contents: [{ item: bearing, quantity: "2", serial: "X-1" }] };
    expect(fieldsOf((await world.call(routes.writeContents, { body: two })).error)).toEqual([
      "contents.0.quantity serial-one",
    ]);
    // What is written down keeps the part in the catalog.
    expect((await world.ok(routes.item, { params: { id: bearing } })).inUse).not.toBeNull();
    const empty = await world.ok(routes.writeContents, { body: { ...body, contents: [] } });
    expect(empty.contents).toEqual([]);
  });
});
