import { routes } from "@yosegi/contract";
import { addDays } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { takeIn } from "../testing/companies.ts";
import { TODAY, type World } from "../testing/open.ts";
import { bareWorld, demoWorld, finishOf } from "../testing/world.ts";

const item = (code: string, change: object = {}) => ({
  code,
  name: `Item ${code}`,
  kind: "bought",
  unit: "pc",
  tracking: "none",
  cost: null,
  price: null,
  store: "",
  bin: "",
  ...change,
});

const line = (part: string, quantity = "1", change: object = {}) => ({
  part,
  quantity,
  unit: "pc",
  waste: "0",
  oncePerBuild: false,
  ...change,
});

/** Makes an item and gives its id. */
async function made(world: World, code: string, change: object = {}): Promise<number> {
  return (await world.ok(routes.newItem, { body: item(code, change) })).id;
}

async function receive(
  world: World,
  id: number,
  quantity: string,
  unitCost: string,
  more: object = {},
): Promise<void> {
  await takeIn(world, id, quantity, { unitCost, ...more });
}

/** A product PACK of one part, with what makes its stock. */
async function pack(part: object = {}): Promise<{ world: World; product: number; part: number }> {
  const world = await bareWorld();
  const partId = await made(world, "PART", part);
  const product = await made(world, "PACK", { kind: "built", price: "20.00" });
  const body = { makes: "1", usual: "1", overhead: "0", lines: [line("PART", "2")] };
  await world.ok(routes.saveList, { params: { id: product }, body });
  return { world, product, part: partId };
}

const makesNow = async (world: World, product: number) => (await world.check(product, "10")).demand.makesNow;

describe("what counts as free", () => {
  it("is a lot through its expiry day, and not the day after", async () => {
    const { world, product, part } = await pack({ tracking: "lot" });
    await receive(world, part, "8", "1", { lot: "YESTERDAY", expiry: addDays(TODAY, -1) });
    expect(await makesNow(world, product)).toBe("0");
    await receive(world, part, "6", "1", { lot: "TODAY", expiry: TODAY });
    expect(await makesNow(world, product)).toBe("3");
    await receive(world, part, "4", "1", { lot: "NEVER" });
    expect(await makesNow(world, product)).toBe("5");
  });
  it("is added up over stores and bins", async () => {
    const { world, product, part } = await pack();
    await receive(world, part, "3", "1", { bin: "01-A" });
    await receive(world, part, "3", "1", { bin: "01-B" });
    expect(await makesNow(world, product)).toBe("3");
  });
  it("adds up over two lines of one part, and an once-per-build line is taken once", async () => {
    const { world, product, part } = await pack();
    const lines = [line("PART", "2"), line("PART", "5", { oncePerBuild: true })];
    await world.ok(routes.saveList, {
      params: { id: product },
      body: { makes: "1", usual: "1", overhead: "0", lines },
    });
    await receive(world, part, "12", "1");
    const { demand, parts } = await world.check(product, "4");
    expect([demand.makesNow, parts.map((p) => [p.need, p.shortNow])]).toEqual(["3", [["13", "1"]]]);
  });
  it("leaves work out: a product of work alone has no limit", async () => {
    const { world, product } = await pack();
    await made(world, "WORK", { kind: "service", unit: "hour", cost: "32" });
    const lines = [line("WORK", "90", { unit: "min" })];
    await world.ok(routes.saveList, {
      params: { id: product },
      body: { makes: "1", usual: "1", overhead: "0", lines },
    });
    const { demand, parts } = await world.check(product, "2");
    expect([demand.makesNow, demand.limiting, parts]).toEqual([null, [], []]);
    const { work, cost } = await world.ok(routes.expected, {
      params: { id: product },
      query: { quantity: "2" },
    });
    expect(cost).toMatchObject({ total: "96.0000", each: "48.0000" });
    expect(work).toEqual([{ name: "Item WORK", quantity: "180", unit: "min" }]);
  });
});

describe("the cost beside the answer", () => {
  it("says which parts have none yet, and counts the others", async () => {
    const { world, product } = await pack();
    const { cost } = await world.ok(routes.expected, {
      params: { id: product },
      query: { quantity: "1" },
    });
    expect(cost).toEqual({ total: "0.0000", each: "0.0000", unknown: ["PART"] });
  });
  it("stays that of the last unit issued when the shelf is empty, and a product's too", async () => {
    const { world, product, part } = await pack({ cost: "9" });
    const unitCost = async (id: number) => (await world.ok(routes.item, { params: { id } })).unitCost;
    expect([await unitCost(part), await unitCost(product)]).toEqual(["9.0000", "18.0000"]);
    await receive(world, part, "4", "1.25");
    expect(await unitCost(part)).toBe("1.2500");
    const build = await world.queued("PACK", "2");
    await world.ok(routes.finishBuild, { params: { id: build }, body: finishOf("2") });
    const sheet = await world.ok(routes.item, { params: { id: part } });
    expect([sheet.onHand, sheet.value, sheet.unitCost]).toEqual(["0", "0.0000", "1.2500"]);
    expect(await unitCost(product)).toBe("2.5000");
  });
  it("is followed through products made of products", async () => {
    const { world, product, part } = await pack();
    await receive(world, part, "4", "1.10");
    const outer = await made(world, "CRATE", { kind: "built" });
    const body = { makes: "6", usual: "6", overhead: "0.05", lines: [line("PACK", "6")] };
    const saved = await world.ok(routes.saveList, { params: { id: outer }, body });
    expect(saved.expected.each).toBe("2.2500");
    expect((await world.ok(routes.item, { params: { id: product } })).unitCost).toBe("2.2000");
  });
});

describe("searching", () => {
  it("takes what is typed as it is: no sign of it means anything else", async () => {
    const world = await demoWorld();
    await made(world, "CAFE-1", { name: "Café 100 % 'pure' _honey_" });
    const found = async (search: string) =>
      (await world.ok(routes.items, { query: { search } })).items.map((i) => i.code);
    expect(await found("100 %")).toEqual(["CAFE-1"]);
    expect(await found("'pure'")).toEqual(["CAFE-1"]);
    expect(await found("_honey_")).toEqual(["CAFE-1"]);
    expect(await found("CAFÉ")).toEqual(["CAFE-1"]);
    expect(await found("%")).toEqual(["CAFE-1"]);
    expect(await found("'; DROP TABLE item; --")).toEqual([]);
  });
  it("filters by kind, and tells how many there are beyond the limit", async () => {
    const { ok } = await demoWorld();
    const work = await ok(routes.items, { query: { kind: "service", limit: 1 } });
    expect([work.items.map((i) => i.code), work.total]).toEqual([["LAB-B"], 2]);
  });
  it("gives every thing that bears one code, so that the field can ask", async () => {
    const world = await demoWorld();
    await receive(world, await made(world, "02-A", { cost: "1" }), "1", "1", { bin: "02-A" });
    const { hits } = await world.ok(routes.find, { query: { text: "02-a" } });
    expect(hits.map((h) => `${h.kind} ${h.detail}`)).toEqual([
      "item Item 02-A",
      "bin 02-A Item 02-A",
      "bin FRM-D Deep frame bars",
    ]);
  });
});
