import { type PurchaseSheet, routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { firmId, newItem, takeIn, writeList } from "../testing/companies.ts";
import { TODAY, type World } from "../testing/open.ts";
import { demoWorld, fieldsOf, statementsOf } from "../testing/world.ts";

async function sent(world: World, code: string, quantity: string, more: object = {}): Promise<PurchaseSheet> {
  const body = {
    supplier: await firmId(world, "supplier", "NORR"),
    lines: [{ item: await world.idOf(code), quantity, ...more }],
  };
  const { id } = await world.ok(routes.newPurchase, { body });
  return world.ok(routes.sendPurchase, { params: { id } });
}

const again = (world: World, { id }: { id: number }) => world.ok(routes.purchase, { params: { id } });

const receive = (world: World, { id }: { id: number }, lines: object[], more: object = {}) =>
  world.call(routes.receivePurchase, { params: { id }, body: { day: TODAY, lines, ...more } });

const onlyLine = ({ orderLines: [line] }: PurchaseSheet) => {
  if (!line) throw new Error("the order has a line");
  return line;
};

describe("one line that came in several entries", () => {
  it("is received by their sum, into each bin its own, and taken back whole", async () => {
    const world = await demoWorld();
    const order = await sent(world, "FLR-M", "10");
    const { id: line } = onlyLine(order);
    const entries = [
      { line, quantity: "4", bin: "A1" },
      { line, quantity: "6", bin: "B2" },
    ];
    expect((await receive(world, order, entries)).status).toBe(200);
    const came = await again(world, order);
    expect(onlyLine(came)).toMatchObject({ received: "10", open: "0" });
    expect([came.stage, came.receipts[0]?.lines.map((l) => `${l.quantity} ${l.bin}`)]).toEqual([
      "received",
      ["4 A1", "6 B2"],
    ]);
    const undone = await world.call(routes.undoReceipt, { params: { id: came.receipts[0]?.id ?? 0 } });
    expect(undone.status).toBe(200);
    expect(onlyLine(undone.answer)).toMatchObject({ received: "0", open: "10" });
    expect(await world.audit()).toEqual([]);
  });
  it("cannot bring in more than was ordered without saying so", async () => {
    const world = await demoWorld();
    const order = await sent(world, "FLR-M", "10");
    const { id: line } = onlyLine(order);
    const entries = [
      { line, quantity: "6" },
      { line, quantity: "6" },
    ];
    const refused = await receive(world, order, entries);
    expect(fieldsOf(refused.error)).toEqual(["lines.1.quantity over-delivery"]);
    expect((await receive(world, order, entries, { more: true })).status).toBe(200);
  });
});

describe("a purchase order", () => {
  it("is cancelled, not received, where nothing came and no line is waited for", async () => {
    const world = await demoWorld();
    const order = await sent(world, "FLR-M", "10");
    const { id: line } = onlyLine(order);
    await receive(world, order, [{ line, quantity: "0", close: true }]);
    expect((await again(world, order)).stage).toBe("cancelled");
  });
  it("says what is missing where nothing is received at all", async () => {
    const world = await demoWorld();
    const order = await sent(world, "FLR-M", "10");
    const { id: line } = onlyLine(order);
    const { error } = await receive(world, order, [{ line, quantity: "0" }]);
    expect(error.fields).toMatchObject([
      {
        field: "lines.0.quantity",
        code: "receive-empty",
        message: expect.stringContaining("Nothing was received"),
      },
    ]);
  });
  it("forgets what a line was for when another item is put on it", async () => {
    const world = await demoWorld();
    const [floor, hive] = [await world.idOf("FLR-M"), await world.idOf("HIVE-N")];
    const need = { item: floor, quantity: "5", for: [{ product: hive, quantity: "5" }] };
    const { purchases } = await world.ok(routes.buyNeeds, { body: { lines: [need] } });
    const draft = await again(world, { id: purchases[0]?.id ?? 0 });
    const line = onlyLine(draft);
    expect(line.for).toHaveLength(1);
    const change = (item: number) =>
      world.ok(routes.changePurchase, {
        params: { id: draft.id },
        body: { lines: [{ id: line.id, item, quantity: "7" }] },
      });
    expect(onlyLine(await change(floor)).for).toHaveLength(1);
    const other = onlyLine(await change(await world.idOf("ROOF-M")));
    expect([other.item.code, other.for]).toEqual(["ROOF-M", []]);
  });
  it("is not written to a supplier that is archived", async () => {
    const world = await demoWorld();
    const supplier = await firmId(world, "supplier", "NORR");
    const firm = await world.ok(routes.firm, { params: { id: supplier } });
    await world.ok(routes.changeFirm, { params: { id: supplier }, body: { ...firm, archived: true } });
    const item = await world.idOf("FLR-M");
    const made = await world.call(routes.newPurchase, {
      body: { supplier, lines: [{ item, quantity: "1" }] },
    });
    expect(fieldsOf(made.error)).toEqual(["supplier firm-archived"]);
    const needed = await world.call(routes.buyNeeds, { body: { lines: [{ item, quantity: "1" }] } });
    expect(fieldsOf(needed.error)).toEqual(["lines.0.supplier firm-archived"]);
  });
  it("may not name one of its lines twice", async () => {
    const world = await demoWorld();
    const item = await world.idOf("FLR-M");
    const body = { supplier: await firmId(world, "supplier", "NORR"), lines: [{ item, quantity: "1" }] };
    const draft = await world.ok(routes.newPurchase, { body });
    const { id } = onlyLine(draft);
    const lines = [
      { id, item, quantity: "1" },
      { id, item, quantity: "2" },
    ];
    const twice = await world.call(routes.changePurchase, { params: { id: draft.id }, body: { lines } });
    expect([twice.status, twice.error.fields.map((f) => f.field)]).toEqual([400, ["lines.1"]]);
    expect((await again(world, draft)).orderLines).toHaveLength(1);
  });
});

describe("a price for another unit or a pack", () => {
  it("is kept as it was said: 25 kg of what is kept in grams at 0.85 per kg come to 21.25", async () => {
    const world = await demoWorld();
    const packs = [{ name: "sack", quantity: "25000" }];
    const item = await newItem(world, "CUR-G", { unit: "g", packs });
    const supplier = await firmId(world, "supplier", "NORR");
    const lines = [
      { item, quantity: "25000", price: "0.85", pricePer: "kg" },
      { item, quantity: "50000", price: "14.00", pricePer: "sack" },
    ];
    const draft = await world.ok(routes.newPurchase, { body: { supplier, lines } });
    expect(draft.orderLines.map((l) => [l.price, l.pricePer, l.total])).toEqual([
      ["0.85", "kg", "21.25"],
      ["14", "sack", "28.00"],
    ]);
    const order = await world.ok(routes.sendPurchase, { params: { id: draft.id } });
    const came = order.orderLines.map((l) => ({ line: l.id, quantity: l.quantity }));
    expect((await receive(world, order, came)).status).toBe(200);
    // 21.25 and 28.00 for 75 kg: the pool keeps the money, whatever one gram would be rounded to.
    expect(await world.ok(routes.item, { params: { id: item } })).toMatchObject({
      value: "49.2500",
      unitCost: "0.0007",
      currentCost: { amount: "49.25", per: "75000" },
    });
    const wrong = { supplier, lines: [{ item, quantity: "1", price: "1", pricePer: "hour" }] };
    expect(fieldsOf((await world.call(routes.newPurchase, { body: wrong })).error)).toEqual([
      "lines.0.pricePer price-unit",
    ]);
  });
  it("is used unrounded in what a list costs: 309 at 28.20 for 1150 is 7.5772", async () => {
    const world = await demoWorld();
    const part = await newItem(world, "WIRE", { unit: "m" });
    await takeIn(world, part, "1150", { unitCost: "28.20", costPer: "" });
    // 28.20 for all of it, not for each: taken in as one bundle
    const bundle = await newItem(world, "BUNDLE", {
      unit: "m",
      packs: [{ name: "bundle", quantity: "1150" }],
    });
    await takeIn(world, bundle, "1150", { unitCost: "28.20", costPer: "bundle" });
    const product = await newItem(world, "FENCE", { kind: "built", cost: null });
    await writeList(world, product, [{ part: "BUNDLE", quantity: "309", unit: "m" }]);
    const { list } = await world.ok(routes.item, { params: { id: product } });
    expect(list?.expected.total).toBe("7.5772");
  });
});

describe("what stands on drafts already", () => {
  it("is not ordered again: pressed twice, nothing is doubled, and the reorder view offers no more", async () => {
    const world = await demoWorld();
    const demands = [{ item: await world.idOf("HIVE-N"), quantity: "30" }];
    const ask = () => world.ok(routes.cover, { body: { demands } });
    const needs = async () =>
      (await ask()).orders
        .filter((o) => o.quantity !== "0")
        .map((o) => ({ item: o.item.id, quantity: o.quantity, supplier: o.supplier?.id ?? null }));
    const lines = await needs();
    expect(lines.length).toBeGreaterThan(1);
    const { purchases } = await world.ok(routes.buyNeeds, { body: { lines } });
    expect(await needs()).toEqual([]);
    const order = (await ask()).orders[0];
    expect(order?.onDrafts).toEqual([{ document: purchases[0]?.number, quantity: lines[0]?.quantity }]);
    const { rows } = await world.ok(routes.reorder, {});
    const low = rows.find((row) => row.act === "order" && row.onDrafts.length === 0);
    if (!low) throw new Error("something is below its level in the demo");
    await world.ok(routes.buyNeeds, { body: { lines: [{ item: low.id, quantity: low.quantity }] } });
    const after = (await world.ok(routes.reorder, {})).rows.find((row) => row.id === low.id);
    expect([after?.quantity, after?.onDrafts.map((d) => d.quantity)]).toEqual(["0", [low.quantity]]);
  });
});

it("forty needs go onto their drafts with no more statements than two, in the order they were asked", async () => {
  const world = await demoWorld();
  const codes = ["BOX-D", "FLR-M"];
  const need = async (i: number) => ({
    item: await world.idOf(codes[i % codes.length] ?? ""),
    quantity: "1",
    costTag: `tag ${i}`,
    supplier: await firmId(world, "supplier", "NORR"),
    price: "1",
  });
  const lines = await Promise.all(Array.from({ length: 46 }, (_, i) => need(i)));
  const buy = (from: number, to: number) =>
    statementsOf(() => world.ok(routes.buyNeeds, { body: { lines: lines.slice(from, to) } }));
  await buy(0, 4);
  expect(await buy(4, 6)).toBe(await buy(6, 46));
  const { purchases } = await world.ok(routes.purchases, {});
  const draft = purchases.find((purchase) => purchase.stage === "draft");
  const { orderLines } = await world.ok(routes.purchase, { params: { id: draft?.id ?? 0 } });
  expect(orderLines.map((line) => line.costTag)).toEqual(lines.map((line) => line.costTag));
});

it("the audit compares purchase orders with their receipts, and receipts with what they moved", async () => {
  const world = await demoWorld();
  const order = await sent(world, "FLR-M", "10");
  const { id: line } = onlyLine(order);
  await receive(world, order, [{ line, quantity: "4" }]);
  expect(await world.audit()).toEqual([]);
  const { db } = world.store;
  await db.query("UPDATE purchase_line SET received = received + 1000000, open = open - 2000000");
  await db.query("UPDATE receipt_line SET quantity = quantity + 3000000");
  expect((await world.audit()).map((d) => `${d.what} of ${d.where}: ${d.books}, ${d.ledger}`)).toEqual([
    "received of P-1 line 1: 5, 7",
    "still to come of P-1 line 1: 4, 5",
    "receipt of RC-1 FLR-M: 7, 4",
  ]);
});
