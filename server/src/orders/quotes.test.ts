import { routes } from "@yosegi/contract";
import { addDays } from "@yosegi/core";
import { expect, it } from "vitest";
import { demoWorld, fieldsOf, TODAY, type World } from "../testing/world.ts";

async function bodyOf(world: World, code: string, quantity: string, more: object = {}) {
  const { firms } = await world.ok(routes.firms, { query: { kind: "customer", search: "TARN" } });
  return {
    customer: firms[0]?.id ?? 0,
    due: addDays(TODAY, 5),
    validUntil: addDays(TODAY, 30),
    lines: [{ item: await world.idOf(code), quantity }],
    ...more,
  };
}

const freeOf = async (world: World, code: string) =>
  (await world.ok(routes.item, { params: { id: await world.idOf(code) } })).free;

it("a quote reserves nothing, says how it would stand, and is ordered as it was quoted", async () => {
  const world = await demoWorld();
  const free = await freeOf(world, "HIVE-N");
  const body = await bodyOf(world, "HIVE-N", String(Number(free) + 3));
  const quote = await world.ok(routes.newOrder, {
    body: { ...body, texts: [{ before: 0, text: "As discussed:" }] },
  });
  expect(quote).toMatchObject({
    number: "Q-1",
    stage: "quote",
    lapsed: false,
    overdue: false,
    takesFrom: [],
    builds: [],
  });
  const { promise } = await world.ok(routes.previewOrder, { body: { due: body.due, lines: body.lines } });
  expect([quote.promise, await freeOf(world, "HIVE-N")]).toEqual([promise, free]);
  expect(quote.orderLines[0]?.takes[0]).toMatchObject({ ready: free, missing: "3" });
  // The price is the quote's, whatever the item's own becomes.
  const item = await world.ok(routes.item, { params: { id: body.lines[0]?.item ?? 0 } });
  await world.ok(routes.changeItem, {
    params: { id: item.id },
    version: item.version,
    body: { ...item, price: "999.00" },
  });
  const params = { id: quote.id };
  for (const route of [routes.supplyOrder, routes.buildForOrder])
    expect((await world.call(route, { params, body: {} })).error.code).toBe("quote-not-ordered");
  const order = await world.ok(routes.orderQuote, { params, body: {} });
  expect(order).toMatchObject({
    id: quote.id,
    number: expect.stringMatching(/^O-/),
    quote: "Q-1",
    stage: "open",
    total: quote.total,
  });
  expect(order.texts).toEqual([{ before: 0, text: "As discussed:" }]);
  expect(order.history.map(({ what }) => what)).toEqual(["created", "ordered"]);
  // What free stock does not cover is to be built, as on any new order.
  expect(order.builds.length).toBe(1);
  expect(await freeOf(world, "HIVE-N")).toBe("-3");
  const { hits } = await world.ok(routes.find, { query: { text: "q-1" } });
  expect(hits[0]).toMatchObject({ kind: "order", id: quote.id, text: order.number });
  expect((await world.call(routes.orderQuote, { params, body: {} })).error.code).toBe("order-no-quote");
  expect(await world.audit()).toEqual([]);
});

it("a quote that has lapsed, or for a customer on hold, is ordered only by going on anyway", async () => {
  const world = await demoWorld();
  const body = await bodyOf(world, "HTL-J", "1", { validUntil: addDays(TODAY, -1) });
  const quote = await world.ok(routes.newOrder, { body });
  expect(quote.lapsed).toBe(true);
  const params = { id: quote.id };
  const { error } = await world.call(routes.orderQuote, { params, body: {} });
  expect(fieldsOf(error)).toEqual(["goOn quote-lapsed"]);
  expect((await world.ok(routes.order, { params })).stage).toBe("quote");
  expect(await world.ok(routes.orderQuote, { params, body: { goOn: true } })).toMatchObject({
    stage: "open",
  });
});

it("a quote stays one until it is ordered, is changed like an order, and can't be ordered with what is archived since", async () => {
  const world = await demoWorld();
  const body = await bodyOf(world, "HTL-J", "1");
  const quote = await world.ok(routes.newOrder, { body });
  const params = { id: quote.id };
  const line = { id: quote.orderLines[0]?.id, item: body.lines[0]?.item, quantity: "4" };
  const change = (more: object, version = quote.version) =>
    world.call(routes.changeOrder, { params, version, body: { ...body, lines: [line], ...more } });
  expect(fieldsOf((await change({ validUntil: null })).error)).toEqual(["validUntil quote-until-needed"]);
  const { answer } = await change({ validUntil: addDays(TODAY, 3) });
  expect([answer.validUntil, answer.total, await freeOf(world, "HTL-J")]).toEqual([
    addDays(TODAY, 3),
    "38.40",
    await freeOf(world, "HTL-J"),
  ]);
  expect((await change({})).error.code).toBe("stale");
  const item = await world.ok(routes.item, { params: { id: line.item ?? 0 } });
  // A quote is a reason not to archive its item; it can still be marked as not for sale.
  await world.ok(routes.changeItem, {
    params: { id: item.id },
    version: item.version,
    body: { ...item, price: "9.60", notForSale: true },
  });
  expect(fieldsOf((await world.call(routes.orderQuote, { params, body: {} })).error)).toEqual([
    "lines.0.item not-for-sale",
  ]);
  const order = await world.ok(routes.newOrder, {
    body: await bodyOf(world, "SMK-S", "1", { validUntil: null }),
  });
  const asQuote = await world.call(routes.changeOrder, {
    params: { id: order.id },
    version: order.version,
    body: await bodyOf(world, "SMK-S", "1"),
  });
  expect(fieldsOf(asQuote.error)).toEqual(["validUntil order-no-quote"]);
  expect((await world.ok(routes.cancelOrder, { params })).stage).toBe("cancelled");
  expect((await world.call(routes.orderQuote, { params, body: {} })).error.code).toBe("order-ended");
});

it("two people who order one quote make one order", async () => {
  const world = await demoWorld();
  const quote = await world.ok(routes.newOrder, { body: await bodyOf(world, "HTL-J", "2") });
  const press = () => world.call(routes.orderQuote, { params: { id: quote.id }, body: {} });
  const both = await Promise.all([press(), press()]);
  expect(both.map(({ error }) => error?.code ?? "ordered").sort()).toEqual(["order-no-quote", "ordered"]);
  const { orders } = await world.ok(routes.orders, { query: {} });
  expect(orders.filter((order) => order.id === quote.id).length).toBe(1);
});
