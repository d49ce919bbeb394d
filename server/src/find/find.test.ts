import { PLAIN_BUILD, routes } from "@yosegi/contract";
import { addDays } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { takeIn } from "../testing/companies.ts";
import { TODAY, type World } from "../testing/open.ts";
import { orderOf } from "../testing/ordering.ts";
import { demoWorld } from "../testing/world.ts";

async function order(world: World, expected: string): Promise<number> {
  const { firms } = await world.ok(routes.firms, { query: { kind: "supplier", search: "NORR" } });
  const lines = [{ item: await world.idOf("FLR-M"), quantity: "4", expected }];
  return (await world.ok(routes.newPurchase, { body: { supplier: firms[0]?.id ?? 0, lines } })).id;
}

describe("what a scan stands for", () => {
  it("is a build, a purchase order or a receipt by its number, in any case", async () => {
    const world = await demoWorld();
    const [build, purchase] = [await world.queued("FRM-A", "5"), await order(world, TODAY)];
    const find = async (text: string) =>
      (await world.ok(routes.find, { query: { text } })).hits.filter((h) => h.exact);
    expect(await find("b-1")).toMatchObject([{ kind: "build", id: build, text: "B-1" }]);
    expect(await find("p-1")).toMatchObject([{ kind: "purchase", id: purchase, detail: "Norrfold Joinery" }]);
    const sent = await world.ok(routes.sendPurchase, { params: { id: purchase } });
    const lines = [{ line: sent.orderLines[0]?.id ?? 0, quantity: "4" }];
    await world.ok(routes.receivePurchase, { params: { id: purchase }, body: { day: TODAY, lines } });
    expect(await find("RC-1")).toMatchObject([{ kind: "document", text: "RC-1", detail: "receipt" }]);
  });
  it("is an item by its barcode, and nothing by half of it", async () => {
    const world = await demoWorld();
    const hits = async (text: string) => (await world.ok(routes.find, { query: { text } })).hits;
    expect((await hits("2900001000017")).map((h) => [h.text, h.exact])).toEqual([["SMK-S", true]]);
    expect((await hits("29000010000")).filter((h) => h.exact)).toEqual([]);
  });
});

describe("what waits at the rail", () => {
  it("is drafts to be sent, and orders of which something is due", async () => {
    const world = await demoWorld();
    const buying = async () => (await world.ok(routes.waiting, {})).buying;
    const [later, due] = [await order(world, addDays(TODAY, 3)), await order(world, addDays(TODAY, -1))];
    expect(await buying()).toBe(2);
    await world.ok(routes.sendPurchase, { params: { id: later } });
    expect(await buying()).toBe(1);
    await world.ok(routes.sendPurchase, { params: { id: due } });
    expect(await buying()).toBe(1);
    await world.ok(routes.cancelPurchase, { params: { id: due } });
    expect(await buying()).toBe(0);
  });
});

it("each figure leads to a list of just so many", async () => {
  const world = await demoWorld();
  await world.queued("FEED-12", "2");
  await world.queued("FEED-12", "400");
  const late = await world.ok(routes.newBuild, {
    body: { ...PLAIN_BUILD, product: await world.idOf("FRM-A"), quantity: "1", due: addDays(TODAY, -2) },
  });
  const short = await orderOf(world, [["EXT-2", "9", "480.00"]], addDays(TODAY, -1));
  await orderOf(world, [["HTL-J", "1", "9.60"]]);
  const waiting = await world.ok(routes.waiting, {});
  const builds = async (state: string) =>
    (await world.ok(routes.builds, { query: { state } })).builds.map(({ number }) => number);
  const orders = async (state: string) =>
    (await world.ok(routes.orders, { query: { state } })).orders.map(({ number }) => number);
  expect([await builds("overdue"), await builds("blocked"), await builds("ready")]).toEqual([
    [late.number],
    ["B-2"],
    ["B-1"],
  ]);
  expect([await orders("overdue"), await orders("short")]).toEqual([[short.number], [short.number]]);
  expect(waiting).toMatchObject({ overdue: 1, blocked: 1, ready: 1, ordersOverdue: 1, ordersMissing: 1 });
});

it("finds a lot, a serial number and a bin in any case, beyond ASCII too", async () => {
  const world = await demoWorld();
  const item = await world.idOf("SYR-72");
  await takeIn(world, item, "5", { lot: "Süß-1", store: "Yard", bin: "Säule-3" });
  const found = async (text: string) =>
    (await world.ok(routes.find, { query: { text } })).hits
      .filter((h) => h.exact)
      .map((h) => `${h.kind} ${h.text}`);
  expect([
    await found("süß-1"),
    await found("SÜSS-1"),
    await found("säule-3"),
    await found("sc-2041"),
  ]).toEqual([["lot Süß-1"], ["lot Süß-1"], ["bin Säule-3"], ["serial SC-2041"]]);
});
