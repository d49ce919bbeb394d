import { type AnswerOf, PLAIN_BUILD, routes } from "@yosegi/contract";
import { beforeEach, describe, expect, it } from "vitest";
import { firmId, newItem } from "../testing/companies.ts";
import type { World } from "../testing/open.ts";
import { demoWorld, fieldsOf, finishOf } from "../testing/world.ts";

let world: World;

let customer: number;

let feed: number;

beforeEach(async () => {
  world = await demoWorld();
  customer = await firmId(world, "customer", "TARN");
  feed = await world.idOf("FEED-12");
});

type Sheet = AnswerOf<typeof routes.order>;

const take = (lines: object[], more: object = {}): Promise<Sheet> =>
  world.ok(routes.newOrder, { body: { customer, lines, ...more } });

const again = ({ id }: { id: number }) => world.ok(routes.order, { params: { id } });

/** "ready coming missing planned" of the first thing an order takes. */
const standing = async (order: { id: number }): Promise<string> => {
  const [line] = (await again(order)).orderLines;
  const first = line?.takes[0];
  return `${first?.ready} ${first?.coming} ${first?.missing} ${first?.planned}`;
};

const toStock = async (quantity: string): Promise<number> => {
  const { id } = await world.ok(routes.newBuild, { body: { ...PLAIN_BUILD, product: feed, quantity } });
  await world.ok(routes.queueBuild, { params: { id } });
  return id;
};

describe("what a build gives an order", () => {
  it("is less by what was rejected: of ten, three are lost, and the check says the same", async () => {
    const order = await take([{ item: feed, quantity: "10" }]);
    const { builds } = await world.ok(routes.buildForOrder, {
      params: { id: order.id },
      body: { lines: [] },
    });
    const id = builds[0]?.id ?? 0;
    await world.ok(routes.queueBuild, { params: { id } });
    expect(await standing(order)).toBe("0 10 0 0");
    const finish = finishOf("0", { lot: "", rejected: "3", reason: "leaks" });
    await world.ok(routes.finishBuild, { params: { id }, body: finish });
    expect(await standing(order)).toBe("0 7 3 0");
    const { demands } = await world.ok(routes.openDemands);
    expect(demands.map((d) => [d.number, d.quantity])).toEqual([
      ["B-1", "7"],
      ["O-1", "3"],
    ]);
  });
  it("is what is built to stock for nobody, too: earlier orders first, and one press makes no second build", async () => {
    await toStock("10");
    const later = await take([{ item: feed, quantity: "8" }], { due: "2026-12-20" });
    const sooner = await take([{ item: feed, quantity: "6" }], { due: "2026-12-10" });
    expect([await standing(sooner), await standing(later)]).toEqual(["0 6 0 0", "0 4 4 0"]);
    const press = () => world.call(routes.buildForOrder, { params: { id: later.id }, body: { lines: [] } });
    const { answer } = await press();
    // Four are linked to the build that is under way, and only the four that miss are made.
    expect(answer.builds.map((build) => build.quantity)).toEqual(["4"]);
    expect(await standing(later)).toBe("0 4 4 4");
    expect([(await press()).error.code, (await world.ok(routes.builds)).builds.length]).toEqual([
      "order-builds-none",
      2,
    ]);
  });
  it("is what is on its way from a supplier, too", async () => {
    const [tool, all] = [await world.idOf("HTL-J"), "60"];
    const order = await take([{ item: tool, quantity: all }]);
    expect(await standing(order)).toBe("42 0 18 0");
    const lines = [{ item: tool, quantity: "18" }];
    const { purchases } = await world.ok(routes.buyNeeds, { body: { lines } });
    expect(await standing(order)).toBe("42 0 18 0");
    await world.ok(routes.sendPurchase, { params: { id: purchases[0]?.id ?? 0 } });
    expect(await standing(order)).toBe("42 18 0 0");
  });
});

describe("one press for all that is missing", () => {
  it("makes one draft of a product, for all the lines that miss it", async () => {
    const order = await take([
      { item: feed, quantity: "3" },
      { item: feed, quantity: "5" },
    ]);
    const { builds } = await world.ok(routes.buildForOrder, {
      params: { id: order.id },
      body: { lines: [] },
    });
    expect(builds.map((build) => [build.quantity, build.orders.map((link) => link.quantity)])).toEqual([
      ["8", ["3", "5"]],
    ]);
  });
});

describe("an order that is changed", () => {
  it("to less keeps a link of no more than it asks for, so that another can be linked", async () => {
    const order = await take([{ item: feed, quantity: "10" }]);
    const { builds } = await world.ok(routes.buildForOrder, {
      params: { id: order.id },
      body: { lines: [] },
    });
    const build = builds[0]?.id ?? 0;
    const line = order.orderLines[0]?.id ?? 0;
    const body = { customer, lines: [{ id: line, item: feed, quantity: "4" }] };
    await world.ok(routes.changeOrder, { params: { id: order.id }, body });
    const sheet = await world.ok(routes.build, { params: { id: build } });
    expect(sheet.orders.map((link) => link.quantity)).toEqual(["4"]);
    const other = await take([{ item: feed, quantity: "6" }]);
    const link = { line: other.orderLines[0]?.id ?? 0, quantity: "6" };
    expect((await world.call(routes.linkOrder, { params: { id: build }, body: link })).status).toBe(200);
  });
  it("to less keeps its place among the orders of a build", async () => {
    const [first, second] = [
      await take([{ item: feed, quantity: "6" }]),
      await take([{ item: feed, quantity: "4" }]),
    ];
    const id = await toStock("10");
    for (const order of [first, second]) {
      const line = order.orderLines[0]?.id ?? 0;
      await world.ok(routes.linkOrder, { params: { id }, body: { line, quantity: null } });
    }
    const lines = [{ id: first.orderLines[0]?.id ?? 0, item: feed, quantity: "5" }];
    await world.ok(routes.changeOrder, { params: { id: first.id }, body: { customer, lines } });
    const rejects = finishOf("0", { lot: "", rejected: "5", reason: "leaks" });
    await world.ok(routes.finishBuild, { params: { id }, body: rejects });
    expect([await standing(first), await standing(second)]).toEqual(["0 5 0 0", "0 0 4 0"]);
  });
  it("may not name one of its lines twice", async () => {
    const order = await take([{ item: feed, quantity: "1" }]);
    const id = order.orderLines[0]?.id ?? 0;
    const lines = ["1", "2"].map((quantity) => ({ id, item: feed, quantity }));
    const { status, error } = await world.call(routes.changeOrder, {
      params: { id: order.id },
      body: { customer, lines },
    });
    expect([status, error.fields.map((f) => f.field)]).toEqual([400, ["lines.1"]]);
  });
});

it("nobody takes an order of a customer who is archived", async () => {
  const firm = await world.ok(routes.firm, { params: { id: customer } });
  await world.ok(routes.changeFirm, { params: { id: customer }, body: { ...firm, archived: true } });
  const lines = [{ item: feed, quantity: "1" }];
  const { error } = await world.call(routes.newOrder, { body: { customer, lines } });
  expect(fieldsOf(error)).toEqual(["customer firm-archived"]);
});

it("no order is so large that a page fails for everybody", async () => {
  const item = await newItem(world, "DUST");
  const lines = Array.from({ length: 50 }, () => ({ item, quantity: "999999999" }));
  const huge = await world.call(routes.newOrder, { body: { customer, lines } });
  expect([huge.status, huge.error.code]).toEqual([422, "amount-too-large"]);
  const bought = lines.slice(0, 30).map((line) => ({ ...line, supplier: 0 }));
  const supplier = await firmId(world, "supplier", "NORR");
  const needs = await world.call(routes.buyNeeds, {
    body: { lines: bought.map((line) => ({ ...line, supplier, price: "1" })) },
  });
  expect(needs.status).toBe(422);
  for (const route of [routes.reorder, routes.orders, routes.waiting, routes.items] as const)
    expect((await world.call(route)).status).toBe(200);
});

it("lists orders page by page, open ones first and what has ended after them", async () => {
  for (let n = 0; n < 3; n++) {
    const { id } = await take([{ item: feed, quantity: "1" }]);
    await world.ok(routes.cancelOrder, { params: { id } });
  }
  const open = await take([{ item: feed, quantity: "1" }]);
  const page = async (query: object) => world.ok(routes.orders, { query: { limit: 2, ...query } });
  const first = await page({});
  expect([first.orders.map((o) => o.id), first.total]).toEqual([[open.id, 3], 4]);
  const second = await page({ after: first.next });
  expect([second.orders.map((o) => o.id), second.next]).toEqual([[2, 1], null]);
  // The row that the page ended with is gone from the search; the next page begins at its place.
  const found = await page({ search: `o-2`, after: first.next });
  expect([found.total, (await page({ search: "o-2" })).orders.map((o) => o.number)]).toEqual([1, ["O-2"]]);
  expect((await world.call(routes.orders, { query: { after: "x" } })).error.fields[0]?.field).toBe("after");
});
