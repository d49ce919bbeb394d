import { routes } from "@yosegi/contract";
import { addDays } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { firmId, lockList, newItem, takeIn, writeList } from "../testing/companies.ts";
import { TODAY } from "../testing/open.ts";
import { bareWorld, demoWorld, emptyWorld, fieldsOf } from "../testing/world.ts";

describe("a revision that starts when the old part has run out", () => {
  it("starts though what is left of it has expired", async () => {
    const world = await demoWorld();
    const [old, next] = [
      await newItem(world, "YEAST-1", { tracking: "lot" }),
      await newItem(world, "YEAST-2"),
    ];
    const product = await newItem(world, "MEAD", { kind: "built", cost: null });
    await lockList(world, await writeList(world, product, [{ part: "YEAST-1", quantity: "1" }]));
    await takeIn(world, old, "5", { lot: "Y-1", expiry: addDays(TODAY, -1) });
    await takeIn(world, old, "3", { lot: "Y-2", expiry: addDays(TODAY, 9) });
    const later = await writeList(world, product, [{ part: "YEAST-2", quantity: "1" }]);
    await lockList(world, later, { starts: "run out", startsAfter: old });
    const parts = async () => {
      const { list } = await world.ok(routes.item, { params: { id: product } });
      return list?.lines.map((line) => line.part.id);
    };
    expect(await parts()).toEqual([old]);
    // The three that are good are all reserved: nothing of it is free any more.
    await world.queued("MEAD", "3");
    expect(await parts()).toEqual([next]);
  });
});

it("a part that is replaced everywhere says which revision will never be used", async () => {
  const world = await demoWorld();
  const product = await world.idOf("FRM-A");
  const { list } = await world.ok(routes.item, { params: { id: product } });
  await lockList(world, list?.revision.id ?? 0);
  const next = await writeList(world, product, [{ part: "FRM-D", quantity: "3" }]);
  await lockList(world, next, { starts: "day", startsOn: addDays(TODAY, 10) });
  const body = {
    part: await world.idOf("FRM-D"),
    successor: await newItem(world, "FRM-E"),
    per: "1",
    of: "1",
  };
  const { lists } = await world.ok(routes.previewReplacement, { body });
  expect(lists.find((l) => l.product.id === product)?.warning).toBe(
    `Revision 2, locked for ${addDays(TODAY, 10)}, will never be used: the new one comes after it.`,
  );
});

it("where an item is used names the customers' orders that ask for it", async () => {
  const world = await demoWorld();
  const item = await world.idOf("HTL-J");
  const body = { customer: await firmId(world, "customer", "TARN"), lines: [{ item, quantity: "2" }] };
  const order = await world.ok(routes.newOrder, { body });
  const { uses } = await world.ok(routes.whereUsed, { params: { id: item } });
  expect(uses.find((use) => use.what === "order")).toMatchObject({
    id: order.id,
    code: "O-1",
    quantity: "2",
  });
});

describe("money in a currency without cents", () => {
  it("has none in prices, totals and their shares", async () => {
    const world = await emptyWorld();
    const company = {
      name: "Kiso Tools",
      currency: "JPY",
      timeZone: "Asia/Tokyo",
      person: "Hana",
      store: "Main",
    };
    await world.ok(routes.setUp, { body: company, person: null });
    const refused = await world.call(routes.newItem, {
      body: { code: "SAW", name: "Saw", kind: "bought", unit: "pc", price: "9.5" },
    });
    expect(fieldsOf(refused.error)).toEqual(["price currency-decimals"]);
    expect(refused.error.fields[0]?.message).toBe("An amount in JPY is a whole number.");
    for (const [code, price] of [
      ["A-1", "300"],
      ["A-2", "300"],
      ["A-3", "400"],
    ] as const)
      await newItem(world, code, { price, cost: "100" });
    const kit = await newItem(world, "SET", { kind: "kit", price: "999", cost: null });
    const contents = ["A-1", "A-2", "A-3"].map((item) => ({
      item,
      quantity: "1",
      swap: "fixed",
      swaps: [],
      quantityMayChange: false,
      mayBeLeftOut: false,
    }));
    await world.ok(routes.saveKit, {
      params: { id: kit },
      body: {
        contentsShown: true,
        mayBeAddedTo: false,
        priceRule: "own",
        discount: "0",
        price: "999",
        contents,
      },
    });
    const sheet = await world.ok(routes.item, { params: { id: kit } });
    expect([sheet.price, sheet.kit?.contents.map((content) => content.share)]).toEqual([
      "999",
      ["300", "300", "399"],
    ]);
  });
});

it("a kit without contents is not ready to be sold, wherever it is asked", async () => {
  const world = await bareWorld();
  const kit = await newItem(world, "EMPTY", { kind: "kit", cost: null, price: "5" });
  const { items } = await world.ok(routes.items);
  const sheet = await world.ok(routes.item, { params: { id: kit } });
  expect([items[0]?.free, sheet.free, sheet.kit?.sets ?? "0"]).toEqual(["0", "0", "0"]);
});

describe("what is still in use", () => {
  it("keeps the decimals of a unit: targets, recurring builds, substitutes and suppliers' terms too", async () => {
    const world = await demoWorld();
    const unitOf = async (code: string) => {
      const { units } = await world.ok(routes.units);
      const found = units.find((unit) => unit.code === code);
      if (!found) throw new Error(`no unit ${code}`);
      return found;
    };
    const whole = async (code: string) => {
      const { code: _, used: __, ...unit } = await unitOf(code);
      const { error } = await world.call(routes.changeUnit, {
        params: { code },
        body: { ...unit, decimals: 0 },
      });
      return error.fields?.map((field) => field.code) ?? [];
    };
    const { units } = await world.ok(routes.units);
    const kilo = units.find((unit) => unit.code === "kg");
    const ton = {
      code: "t",
      name: "ton",
      dimension: kilo?.dimension,
      factor: "1000000",
      decimals: 3,
      rec20: "TNE",
    };
    await world.ok(routes.newUnit, { body: ton });
    // Nothing has a fraction of a ton, until a target has.
    const product = await newItem(world, "WAX-T", { kind: "built", unit: "t", cost: null });
    await writeList(world, product, [{ part: "JAR-4", quantity: "1" }]);
    const { error } = await world.call(routes.setStockTarget, {
      body: { product, target: "1.5", batch: "1" },
    });
    expect(error.code).toBeUndefined();
    expect(await whole("t")).toEqual(["unit-decimals"]);
    await world.ok(routes.removeStockTarget, { params: { id: product } });
    const minimum = {
      supplier: "NORR",
      theirCode: "",
      price: null,
      leadDays: null,
      minimum: "0.5",
      multiple: null,
    };
    await world.ok(routes.changeSuppliers, {
      params: { id: product },
      body: { suppliers: [{ ...minimum, web: "", preferred: true }] },
    });
    expect(await whole("t")).toEqual(["unit-decimals"]);
  });
  it("is not removed: a list with a file, a file of a message that went out", async () => {
    const world = await demoWorld();
    const product = await newItem(world, "FILED", { kind: "built", cost: null });
    const revision = await writeList(world, product, [{ part: "JAR-4", quantity: "1" }]);
    const attached = {
      to: "list",
      id: revision,
      name: "plan.txt",
      type: "text/plain",
      content: "aGVsbG8=",
      thumbnail: null,
    };
    await world.ok(routes.attachFile, { body: attached });
    expect((await world.call(routes.removeRevision, { params: { id: revision } })).status).not.toBe(500);
    const supplier = await firmId(world, "supplier", "NORR");
    const lines = [{ item: await world.idOf("FLR-M"), quantity: "1" }];
    const { id } = await world.ok(routes.newPurchase, { body: { supplier, lines } });
    await world.ok(routes.sendPurchase, { params: { id } });
    const { messages } = await world.ok(routes.outbox);
    const message = await world.ok(routes.outboxMessage, { params: { id: messages[0]?.id ?? 0 } });
    const removed = await world.call(routes.removeFile, { params: { id: message.files[0]?.id ?? 0 } });
    expect([removed.status, removed.error.code]).toEqual([409, "file-in-message"]);
  });
});
