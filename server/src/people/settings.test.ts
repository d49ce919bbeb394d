import { PLAIN_BUILD, routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { handReceipt } from "../testing/companies.ts";
import { bareWorld, demoWorld, fieldsOf, type World } from "../testing/world.ts";

describe("the company", () => {
  it("is renamed and moved to another time zone at any time", async () => {
    const { ok, call } = await demoWorld();
    const body = { name: "Brackenmere Bees", currency: "EUR", timeZone: "Pacific/Auckland", taxRate: "7.5" };
    const changed = await ok(routes.changeCompany, { body });
    // Nine in the morning here is late in the evening there.
    expect(changed).toEqual({ ...body, today: "2026-11-23" });
    const wrong = await call(routes.changeCompany, { body: { ...body, timeZone: "Mars/Crater" } });
    expect(fieldsOf(wrong.error)).toEqual(["timeZone time-zone-unknown"]);
  });
  it("gets another currency while nothing is posted and every price fits it", async () => {
    const { ok, call } = await bareWorld();
    const body = { name: "Brackenmere", currency: "JPY", timeZone: "Europe/Vienna" };
    const item = { code: "BOX-D", name: "Hive box", kind: "bought", unit: "pc", price: "16.40" };
    const { id } = await ok(routes.newItem, { body: item });
    const priced = await call(routes.changeCompany, { body });
    expect([fieldsOf(priced.error), priced.error.message]).toEqual([
      ["currency currency-prices"],
      "BOX-D has a price with more decimals than JPY allows. Change that first.",
    ]);
    const sheet = await ok(routes.item, { params: { id } });
    await ok(routes.changeItem, { params: { id }, body: { ...sheet, price: "1640" } });
    expect((await ok(routes.changeCompany, { body })).currency).toBe("JPY");
    expect((await ok(routes.item, { params: { id } })).ownPrice).toBe("1640");
  });
  it("keeps its currency once something is posted", async () => {
    const { call } = await demoWorld();
    const body = { name: "Brackenmere", currency: "KWD", timeZone: "Europe/Vienna" };
    expect(fieldsOf((await call(routes.changeCompany, { body })).error)).toEqual([
      "currency currency-posted",
    ]);
  });
});

describe("people", () => {
  it("are renamed and archived; the last one stays, and two never have one name", async () => {
    const { ok, call } = await bareWorld();
    const [first] = (await ok(routes.people, {})).people;
    const params = { id: first?.id ?? 0 };
    const alone = await call(routes.changePerson, { params, body: { name: "Ines", archived: true } });
    expect(fieldsOf(alone.error)).toEqual(["archived last-one"]);
    const second = await ok(routes.addPerson, { body: { name: "Jorun" } });
    const taken = await call(routes.changePerson, { params, body: { name: "jorun" } });
    expect(fieldsOf(taken.error)).toEqual(["name person-taken"]);
    await ok(routes.changePerson, {
      params: { id: second.id },
      body: { name: "Jorun Holt", archived: true },
    });
    expect((await ok(routes.people, {})).people.at(-1)).toEqual({
      id: second.id,
      name: "Jorun Holt",
      archived: true,
    });
  });
  it("are removed while they have recorded nothing, and never by themselves", async () => {
    const { ok, call } = await bareWorld();
    const second = await ok(routes.addPerson, { body: { name: "Jorun" } });
    expect((await call(routes.removePerson, { params: { id: 1 } })).error.code).toBe("person-working");
    const item = { code: "HIVE", name: "Hive", kind: "built", unit: "pc" };
    const { id } = await ok(routes.newItem, { body: item });
    const lines = [{ part: "BOX", quantity: "1", unit: "pc", waste: "0" }];
    await ok(routes.newItem, { body: { ...item, code: "BOX", kind: "bought" } });
    await ok(routes.saveList, { params: { id }, body: { makes: "1", usual: "1", lines }, person: second.id });
    const used = await call(routes.removePerson, { params: { id: second.id } });
    expect([used.status, used.error.code]).toEqual([409, "still-used"]);
    const third = await ok(routes.addPerson, { body: { name: "Nobody yet" } });
    await ok(routes.removePerson, { params: { id: third.id } });
    expect((await ok(routes.people, {})).people).toHaveLength(2);
  });
});

async function frontStore(ok: World["ok"]) {
  const [front] = (await ok(routes.stores, {})).stores;
  return { front, params: { id: front?.id ?? 0 } };
}

describe("stores and bins", () => {
  it("are added, renamed and archived; one that holds stock, and the last one, stay", async () => {
    const { ok, call } = await demoWorld();
    const barn = await ok(routes.newStore, { body: { name: "Barn" } });
    expect(barn).toMatchObject({ name: "Barn", archived: false, bins: [] });
    expect(fieldsOf((await call(routes.newStore, { body: { name: "barn" } })).error)).toEqual([
      "name store-taken",
    ]);
    await ok(routes.changeStore, { params: { id: barn.id }, body: { name: "Old barn", archived: true } });
    const [front] = (await ok(routes.stores, {})).stores;
    const params = { id: front?.id ?? 0 };
    const full = await call(routes.changeStore, { params, body: { name: "Front", archived: true } });
    expect(full.error.message).toBe("Front can't be archived: stock is kept there.");
    await ok(routes.changeStore, { params, body: { name: "Front" } });
    expect((await ok(routes.stores, {})).stores.map((store) => store.name)).toContain("Front");
    expect((await call(routes.removeStore, { params })).error.code).toBe("still-used");
    await ok(routes.removeStore, { params: { id: barn.id } });
    const { call: bare } = await bareWorld();
    expect((await bare(routes.removeStore, { params: { id: 1 } })).error.code).toBe("last-one");
  });
  it("that are archived are no place to go to: for stock, for items, for builds", async () => {
    const { ok, call, idOf } = await demoWorld();
    const { id } = await ok(routes.newStore, { body: { name: "Barn" } });
    const archive = () =>
      call(routes.changeStore, { params: { id }, body: { name: "Barn", archived: true } });
    const item = {
      code: "BARN-1",
      name: "Barn lamp",
      kind: "bought",
      unit: "pc",
      tracking: "none",
      store: "Barn",
    };
    const lamp = await ok(routes.newItem, { body: item });
    expect((await archive()).error.message).toBe(
      "Barn can't be archived: it is the default store of BARN-1.",
    );
    await ok(routes.removeItem, { params: { id: lamp.id } });
    const build = { ...PLAIN_BUILD, product: await idOf("FEED-12"), quantity: "2", store: "Barn" };
    const { id: made } = await ok(routes.newBuild, { body: build });
    expect((await archive()).error.message).toBe("Barn can't be archived: B-1 will be put away there.");
    await ok(routes.cancelBuild, { params: { id: made } });
    expect((await archive()).status).toBe(200);
    for (const refused of [
      await call(routes.newItem, { body: item }),
      await call(routes.newBuild, { body: build }),
      await call(routes.receive, { body: handReceipt(await idOf("CAN-12"), "1", { store: "Barn" }) }),
    ])
      expect(fieldsOf(refused.error).map((field) => field.replace("lines.0.", ""))).toEqual([
        "store store-unknown",
      ]);
  });
  it("bins go while nothing was in them and nothing names them", async () => {
    const { ok, call, idOf } = await demoWorld();
    const { front, params } = await frontStore(ok);
    const twice = await call(routes.addBins, { params, body: { bins: ["99-Z", "99-z"] } });
    expect(fieldsOf(twice.error)).toEqual(["bins.1 bin-taken"]);
    await ok(routes.addBins, { params, body: { bins: ["99-Z", "98-Z"] } });
    const body = {
      ...PLAIN_BUILD,
      product: await idOf("FEED-12"),
      quantity: "2",
      store: front?.name,
      bin: "98-Z",
    };
    await ok(routes.newBuild, { body });
    const named = await call(routes.removeBin, { params, body: { bin: "98-Z" } });
    expect(named.error.message).toBe("Bin 98-Z can't be removed: B-1 will be put away in it.");
    const filled = front?.bins[0] ?? "";
    expect((await call(routes.removeBin, { params, body: { bin: filled } })).status).toBe(409);
    const after = await ok(routes.removeBin, { params, body: { bin: "99-Z" } });
    expect(after.bins).not.toContain("99-Z");
    expect((await call(routes.removeBin, { params, body: { bin: "99-Z" } })).error.code).toBe("no-such-bin");
  });
  it("a bin that was used is closed, and opens again when something returns to it", async () => {
    const world = await demoWorld();
    const { ok, idOf } = world;
    const { params } = await frontStore(ok);
    const bins = async () => (await frontStore(ok)).front?.bins ?? [];
    await ok(routes.addBins, { params, body: { bins: ["99-Z"] } });
    const item = await idOf("SMK-S");
    const [spot] = (await ok(routes.item, { params: { id: item } })).stockByBin;
    const line = {
      item,
      store: spot?.store,
      bin: spot?.bin,
      quantity: "1",
      toStore: "Front store",
      toBin: "99-Z",
    };
    const { document } = await ok(routes.moveStock, { body: { lines: [line], day: "2026-11-23" } });
    const back = { ...line, store: line.toStore, bin: line.toBin, toStore: line.store, toBin: line.bin };
    const moved = await ok(routes.moveStock, { body: { lines: [back], day: "2026-11-23" } });
    expect((await ok(routes.removeBin, { params, body: { bin: "99-Z" } })).bins).not.toContain("99-Z");
    await ok(routes.undoStock, { body: { document: moved.document } });
    expect(await bins()).toContain("99-Z");
    await ok(routes.undoStock, { body: { document } });
    expect(await world.audit()).toEqual([]);
  });
  it("bins have their place in the walk, and a new name, which stock, items and builds follow", async () => {
    const world = await demoWorld();
    const { ok, call, idOf } = world;
    const { front, params } = await frontStore(ok);
    const [first = "", second = ""] = front?.bins ?? [];
    const turned = await ok(routes.orderBins, { params, body: { bins: [second, first] } });
    expect(turned.bins.slice(0, 2)).toEqual([second, first]);
    const wrong = await call(routes.orderBins, { params, body: { bins: ["no such"] } });
    expect(fieldsOf(wrong.error)).toEqual(["bins.0 no-such-bin"]);
    const item = await ok(routes.item, { params: { id: await idOf("SMK-S") } });
    const { bin } = item;
    const build = {
      ...PLAIN_BUILD,
      product: await idOf("FEED-12"),
      quantity: "2",
      store: "Front store",
      bin,
    };
    const made = await ok(routes.newBuild, { body: build });
    const taken = await call(routes.renameBin, { params, body: { bin, to: second.toLowerCase() } });
    expect(fieldsOf(taken.error)).toEqual(["to bin-taken"]);
    // A count under way would find what is in it a second time, under its old name.
    const sheet = await ok(routes.newCount, { body: { bins: [{ location: 1, bin }] } });
    const counted = await call(routes.renameBin, { params, body: { bin: bin.toLowerCase(), to: "A-1" } });
    expect(fieldsOf(counted.error)).toEqual(["bin bin-counted"]);
    await ok(routes.cancelCount, { params: { id: sheet.id } });
    const { document } = await ok(routes.renameBin, { params, body: { bin: bin.toLowerCase(), to: "A-1" } });
    expect(document).toBe("M-1");
    const after = await ok(routes.item, { params: { id: item.id } });
    expect([after.bin, after.onHand, after.stockByBin.some((one) => one.bin === bin)]).toEqual([
      "A-1",
      item.onHand,
      false,
    ]);
    expect((await ok(routes.build, { params: { id: made.id } })).bin).toBe("A-1");
    const bins = (await frontStore(ok)).front?.bins ?? [];
    expect([bins.includes("A-1"), bins.includes(bin)]).toEqual([true, false]);
    expect(await world.audit()).toEqual([]);
  });
});

it("a firm is removed while nothing names it", async () => {
  const { ok, call, idOf } = await demoWorld();
  const none = { address: "", contact: "", email: "", phone: "", terms: "" };
  const body = { ...none, kind: "customer", code: "NEWC", name: "New customer" };
  const fresh = await ok(routes.newFirm, { body });
  const order = { customer: fresh.id, lines: [{ item: await idOf("FEED-12"), quantity: "1" }] };
  const other = await ok(routes.newFirm, { body: { ...body, code: "NEWD" } });
  await ok(routes.newOrder, { body: order });
  expect((await call(routes.removeFirm, { params: { id: fresh.id } })).error.code).toBe("still-used");
  await ok(routes.removeFirm, { params: { id: other.id } });
  expect((await call(routes.firm, { params: { id: other.id } })).status).toBe(404);
});
