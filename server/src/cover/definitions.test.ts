import { PLAIN_BUILD, PLAIN_LINE, routes } from "@yosegi/contract";
import { addDays } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { firmId, lockList, newItem, takeIn, writeList } from "../testing/companies.ts";
import { TODAY, type World } from "../testing/open.ts";
import { demoWorld, finishOf } from "../testing/world.ts";

const partOf = async (world: World, demand: object, code: string, more: object = {}) => {
  const { parts } = await world.ok(routes.cover, { body: { demands: [demand], ...more } });
  return parts.find((part) => part.code === code);
};

describe("the check of open builds", () => {
  it("answers where a part came in at a finish, which needs nothing", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "20");
    const extra = [{ ...PLAIN_LINE, item: await world.idOf("JAR-4"), insteadOf: null, used: "2" }];
    const finish = finishOf("8", { lot: "AF-1", extra });
    await world.ok(routes.finishBuild, { params: { id }, body: finish });
    const { demands } = await world.ok(routes.openDemands);
    const answer = await world.call(routes.cover, { body: { demands } });
    expect(answer.status).toBe(200);
    expect(answer.answer.demands[0]).toMatchObject({ wanted: "12", build: { number: "B-1" } });
    expect(answer.answer.parts.map((part) => part.code)).not.toContain("JAR-4");
  });
  it("keeps their priority, and the builds on the bench", async () => {
    const world = await demoWorld();
    const make = async (quantity: string, priority: number) => {
      const body = { ...PLAIN_BUILD, product: await world.idOf("FEED-12"), quantity, priority };
      const { id } = await world.ok(routes.newBuild, { body });
      await world.ok(routes.queueBuild, { params: { id } });
      return id;
    };
    const last = await make("8", 5);
    const first = await make("16", 1);
    await world.ok(routes.handOut, { params: { id: first }, body: { day: TODAY } });
    const { demands } = await world.ok(routes.openDemands);
    expect(demands.map((d) => [d.build, d.priority, d.stage, d.quantity])).toEqual([
      [first, 1, "on the bench", "16"],
      [last, 5, "queued", "8"],
    ]);
    // What lies on its bench is no more to be taken: of canisters only those of the other build.
    const { parts } = await world.ok(routes.cover, { body: { demands } });
    expect(parts.find((part) => part.code === "CAN-12")).toMatchObject({ need: "8", free: "32" });
  });
  it("is as a build copied from what was used, and offers its substitutes where they belong", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "8");
    const labels = { ...PLAIN_LINE, line: 4, used: "12" };
    const extra = [{ ...PLAIN_LINE, item: await world.idOf("JAR-4"), insteadOf: null, used: "2" }];
    const used = finishOf("8", { lot: "AF-1", lines: [labels], extra });
    await world.ok(routes.finishBuild, { params: { id }, body: used });
    const copy = await world.ok(routes.copyBuild, {
      params: { id },
      body: { quantity: "8", due: null, actual: true },
    });
    const sheet = await world.ok(routes.build, { params: { id: copy.id } });
    const { demands } = await world.ok(routes.openDemands);
    const { parts } = await world.ok(routes.cover, { body: { demands } });
    const needs = (rows: { code: string; need: string }[]) =>
      rows.map((row) => `${row.code} ${row.need}`).sort();
    expect(needs(parts)).toEqual(
      needs(
        sheet.lines
          .filter((line) => line.item.kind !== "service")
          .map((line) => ({ code: line.item.code, need: line.need })),
      ),
    );
    await world.ok(routes.queueBuild, { params: { id: copy.id } });
    const queued = await world.ok(routes.build, { params: { id: copy.id } });
    const substitutes = queued.lines.filter((line) => line.substitutes.length > 0);
    expect(substitutes.map((line) => line.item.code)).toEqual(["LBL-F"]);
  });
});

describe("a check", () => {
  it("is of the revision in force on the day its parts are needed", async () => {
    const world = await demoWorld();
    const product = await world.idOf("FRM-A");
    const { list } = await world.ok(routes.item, { params: { id: product } });
    await lockList(world, list?.revision.id ?? 0);
    const next = await writeList(world, product, [{ part: "FRM-D", quantity: "3" }]);
    await lockList(world, next, { starts: "day", startsOn: addDays(TODAY, 10) });
    const bars = async (demand: object) => (await partOf(world, demand, "FRM-D"))?.need;
    const frames = (day: string | null) => bars({ item: product, quantity: "1", day });
    // One day's work: wanted on the eleventh day, its parts are needed on the tenth.
    expect([await frames(null), await frames(addDays(TODAY, 10)), await frames(addDays(TODAY, 11))]).toEqual([
      "1",
      "1",
      "3",
    ]);
    // A frame that is built first, for a hive, is built by the list of its own day. 266 frames are there.
    const hive = await world.idOf("HIVE-N");
    const order = async (day: string) => {
      const demands = [{ item: hive, quantity: "14", day }];
      const { orders, builds } = await world.ok(routes.cover, {
        body: { demands, stock: [{ item: await world.idOf("FRM-D"), onHand: "0" }] },
      });
      return [builds[0]?.short, orders.find((o) => o.item.code === "FRM-D")?.short];
    };
    expect([await order(addDays(TODAY, 12)), await order(addDays(TODAY, 13))]).toEqual([
      ["14", "14"],
      ["14", "42"],
    ]);
  });
  it("takes what is supposed to be on hand as usable, whatever has expired", async () => {
    const world = await demoWorld();
    const syrup = await world.idOf("SYR-72");
    const demand = { item: await world.idOf("FEED-12"), quantity: "8" };
    expect(await partOf(world, demand, "SYR-72")).toMatchObject({ expired: "25" });
    const supposed = { stock: [{ item: syrup, onHand: "10" }] };
    expect(await partOf(world, demand, "SYR-72", supposed)).toMatchObject({
      onHand: "10",
      expired: "0",
      free: "10",
    });
  });
  it("expects the cost of the list that it is asked for", async () => {
    const world = await demoWorld();
    const product = await world.idOf("FEED-12");
    const { lists } = await world.ok(routes.lists, { params: { id: product } });
    const small = lists.find((list) => !list.main)?.id ?? 0;
    const cost = async (query: object) =>
      (await world.ok(routes.expected, { params: { id: product }, query: { quantity: "8", ...query } })).cost
        .each;
    // 3 % of syrup are lost in small batches, 2 % in large ones.
    expect(await cost({ list: small })).not.toBe(await cost({}));
    const other = await world.call(routes.expected, {
      params: { id: await world.idOf("FRM-A") },
      query: { quantity: "8", list: small },
    });
    expect(other.status).toBe(404);
  });
  it("shows the chart of a part as of the store it is for", async () => {
    const world = await demoWorld();
    const item = await newItem(world, "CORK", { store: "Front store" });
    await takeIn(world, item, "5");
    await takeIn(world, item, "7", { store: "Yard" });
    const product = await newItem(world, "BUNG", { kind: "built" });
    await writeList(world, product, [{ part: "CORK", quantity: "1" }]);
    await world.queued("BUNG", "3");
    const chart = async (store: string) => {
      const { days, undated } = await world.ok(routes.partTimeline, { body: { demands: [], item, store } });
      return [days[0]?.stock, undated.map((event) => event.change)];
    };
    // The build takes it from its home store.
    expect([await chart(""), await chart("Front store"), await chart("Yard")]).toEqual([
      ["12", ["-3"]],
      ["5", ["-3"]],
      ["7", []],
    ]);
  });
});

it("a part that is expected on the last day there is breaks no check", async () => {
  const world = await demoWorld();
  const supplier = await firmId(world, "supplier", "NORR");
  const lines = [{ item: await world.idOf("FLR-M"), quantity: "100", expected: "9999-12-31" }];
  const { id } = await world.ok(routes.newPurchase, { body: { supplier, lines } });
  await world.ok(routes.sendPurchase, { params: { id } });
  const demands = [{ item: await world.idOf("HIVE-N"), quantity: "40" }];
  const answer = await world.call(routes.cover, { body: { demands } });
  expect([answer.status, answer.answer.finish]).toEqual([200, "9999-12-31"]);
});
