import { PLAIN_BUILD, PLAIN_ORDER_LINE, routes } from "@yosegi/contract";
import { addDays } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { demoWorld, fieldsOf, finishOf, TODAY, type World } from "../testing/world.ts";

const customerOf = async (world: World) =>
  (await world.ok(routes.firms, { query: { kind: "customer" } })).firms[0]?.id ?? 0;

interface Asked {
  id?: number;
  code: string;
  quantity: string;
  toBuild?: string | null;
  proposeBuild?: boolean;
}

async function bodyOf(world: World, lines: Asked[], due: string | null = addDays(TODAY, 9)) {
  const own = lines.map(async ({ code, ...line }) => ({
    ...PLAIN_ORDER_LINE,
    item: await world.idOf(code),
    ...line,
  }));
  return { customer: await customerOf(world), due, reference: "", note: "", lines: await Promise.all(own) };
}

const order = async (world: World, lines: Asked[], due?: string | null) =>
  world.ok(routes.newOrder, { body: await bodyOf(world, lines, due) });

const buildsOf = async (world: World) =>
  (await world.ok(routes.builds, {})).builds.map(
    (build) => `${build.number} ${build.product.code} ${build.quantity}`,
  );

const freeOf = async (world: World, code: string) =>
  Number((await world.ok(routes.item, { params: { id: await world.idOf(code) } })).free);

describe("what is to be built of a line", () => {
  it("becomes a linked draft at once: all free stock first, or as typed; it always adds up", async () => {
    const world = await demoWorld();
    const free = await freeOf(world, "FEED-12");
    const quantity = String(free + 28);
    const asked = await bodyOf(world, [{ code: "FEED-12", quantity, proposeBuild: true }]);
    const preview = await world.ok(routes.previewOrder, { body: { ...asked, order: null } });
    expect(preview.lines[0]?.cover).toEqual({ fromStock: String(free), toBuild: "28" });
    const made = await world.ok(routes.newOrder, { body: asked });
    expect(made.builds.map((build) => build.number)).toEqual(["B-1"]);
    expect(await buildsOf(world)).toEqual(["B-1 FEED-12 28"]);
    expect(made.orderLines[0]?.takes[0]?.builds).toMatchObject([
      { number: "B-1", coming: "28", due: made.due },
    ]);
    // Another order's line joins the draft, which is due with the earlier of both.
    const second = await order(world, [{ code: "FEED-12", quantity: "5", toBuild: "5" }], addDays(TODAY, 4));
    expect(await buildsOf(world)).toEqual(["B-1 FEED-12 33"]);
    expect(second.orderLines[0]?.takes[0]?.builds).toMatchObject([{ coming: "5", due: addDays(TODAY, 4) }]);
    // Fewer to build: the latest link goes first, and the draft is offered to follow.
    const id = made.orderLines[0]?.id ?? 0;
    const fewer = await world.ok(routes.changeOrder, {
      params: { id: made.id },
      body: await bodyOf(world, [{ id, code: "FEED-12", quantity, toBuild: "20" }]),
    });
    expect(fewer.orderLines[0]?.takes[0]?.builds).toMatchObject([{ coming: "20" }]);
    expect(fewer.offers).toMatchObject([
      { number: "B-1", quantity: { from: "33", to: "25", unit: "pc" }, due: null },
    ]);
    await world.ok(routes.followOrder, {
      params: { id: made.id, build: fewer.offers[0]?.id ?? 0 },
      body: { quantity: "25", due: null },
    });
    expect(await buildsOf(world)).toEqual(["B-1 FEED-12 25"]);
    expect(await world.audit()).toEqual([]);
  });

  it("is all of it where the item is always built, and nothing where the line says so", async () => {
    const world = await demoWorld();
    const item = await world.idOf("FEED-12");
    const { ownPrice, ...sheet } = await world.ok(routes.item, { params: { id: item } });
    await world.ok(routes.changeItem, {
      params: { id: item },
      body: { ...sheet, price: ownPrice, alwaysBuild: true },
    });
    const all = await order(world, [{ code: "FEED-12", quantity: "3", proposeBuild: true }]);
    expect(all.orderLines[0]?.takes[0]?.builds).toMatchObject([{ coming: "3" }]);
    const none = await order(world, [{ code: "FEED-12", quantity: "90", toBuild: "0" }]);
    expect(none.orderLines[0]?.takes[0]?.builds).toEqual([]);
    expect(await buildsOf(world)).toEqual(["B-1 FEED-12 3"]);
  });

  it("is refused beyond what the line asks for, of what can't be built, and in broken pieces", async () => {
    const world = await demoWorld();
    const refused = async (asked: Asked) =>
      fieldsOf((await world.call(routes.newOrder, { body: await bodyOf(world, [asked]) })).error);
    expect(await refused({ code: "FEED-12", quantity: "3", toBuild: "4" })).toEqual([
      "lines.0.toBuild to-build-too-many",
    ]);
    expect(await refused({ code: "FEED-12", quantity: "3", toBuild: "1.5" })).toEqual([
      "lines.0.toBuild decimals",
    ]);
    expect(await refused({ code: "SMK-S", quantity: "3", toBuild: "1" })).toEqual([
      "lines.0.toBuild not-built",
    ]);
  });

  it("lets go of a draft when its line is taken off, and offers to cancel it; a queued build keeps the line", async () => {
    const world = await demoWorld();
    const made = await order(world, [
      { code: "FEED-12", quantity: "4", toBuild: "4" },
      { code: "SMK-S", quantity: "1" },
    ]);
    const [feed, smoker] = made.orderLines;
    const rest = await bodyOf(world, [{ id: smoker?.id ?? 0, code: "SMK-S", quantity: "1" }]);
    const params = { id: made.id };
    const changed = await world.ok(routes.changeOrder, { params, body: rest });
    expect(changed.offers).toMatchObject([{ number: "B-1", quantity: { from: "4", to: "0" } }]);
    await world.ok(routes.followOrder, {
      params: { id: made.id, build: changed.offers[0]?.id ?? 0 },
      body: { quantity: "0", due: null },
    });
    expect((await world.ok(routes.builds, {})).builds[0]?.stage).toBe("cancelled");
    expect(feed?.takes[0]?.builds[0]?.number).toBe("B-1");
    const again = await order(world, [{ code: "FEED-12", quantity: "4", toBuild: "4" }]);
    await world.ok(routes.queueBuild, { params: { id: again.builds[0]?.id ?? 0 } });
    const other = await bodyOf(world, [{ code: "SMK-S", quantity: "1" }]);
    const refused = await world.call(routes.changeOrder, { params: { id: again.id }, body: other });
    expect(refused.error.fields[0]?.code).toBe("line-linked");
    expect(await world.audit()).toEqual([]);
  });

  it("never moves a build on the bench, nor a queued one's quantity; a new day is offered", async () => {
    const world = await demoWorld();
    const made = await order(world, [{ code: "HIVE-C", quantity: "2", toBuild: "2" }]);
    const build = made.builds[0]?.id ?? 0;
    const id = made.orderLines[0]?.id ?? 0;
    await world.call(routes.queueBuild, { params: { id: build } });
    const changed = await world.ok(routes.changeOrder, {
      params: { id: made.id },
      body: await bodyOf(world, [{ id, code: "HIVE-C", quantity: "1" }], addDays(TODAY, 2)),
    });
    expect(changed.offers).toMatchObject([
      { stage: "queued", quantity: null, due: { from: addDays(TODAY, 9), to: addDays(TODAY, 2) } },
    ]);
    expect((await world.ok(routes.build, { params: { id: build } })).due).toBe(addDays(TODAY, 9));
  });
});

describe("one press for all that an order lacks", () => {
  it("builds what is built, buys what is bought and the parts that are missing, and doubles nothing", async () => {
    const world = await demoWorld();
    const hives = await freeOf(world, "HIVE-N");
    const smokers = await freeOf(world, "SMK-S");
    const made = await order(world, [
      { code: "HIVE-N", quantity: String(hives + 28) },
      { code: "SMK-S", quantity: String(smokers + 7) },
    ]);
    const supplied = await world.ok(routes.supplyOrder, { params: { id: made.id } });
    expect(supplied.builds.map((build) => build.number)).toContain("B-1");
    expect(supplied.unsupplied).toEqual([]);
    const sheet = await world.ok(routes.order, { params: { id: made.id } });
    const [hive, smoker] = sheet.orderLines.map((line) => line.takes[0]);
    expect(hive).toMatchObject({ missing: "28", planned: "28", builds: [{ number: "B-1", coming: "28" }] });
    expect(smoker?.purchases).toMatchObject([{ stage: "draft", item: { code: "SMK-S" } }]);
    // What is on the drafts is what the check of the same hives says is to be ordered.
    const { parts } = await world.check(await world.idOf("HIVE-N"), "28");
    const short = parts.filter((part) => part.stocked && !part.canBeBuilt && Number(part.shortNow) > 0);
    expect(short.length).toBeGreaterThan(0);
    for (const part of short)
      expect(hive?.purchases.find((need) => need.item.code === part.code)?.quantity).toBe(part.shortNow);
    // The build shows the same orders beside its own parts.
    const built = await world.ok(routes.build, { params: { id: hive?.builds[0]?.id ?? 0 } });
    const own = short.filter((part) => built.lines.some((line) => line.item.code === part.code));
    expect(own.length).toBeGreaterThan(0);
    for (const part of own)
      expect(
        built.lines.find((line) => line.item.code === part.code)?.purchases.map((need) => need.quantity),
      ).toEqual([part.shortNow]);
    const again = await world.ok(routes.supplyOrder, { params: { id: made.id } });
    expect(again).toEqual({ builds: [], purchases: [], unsupplied: [] });
    const purchase = await world.ok(routes.purchase, { params: { id: supplied.purchases[0]?.id ?? 0 } });
    expect(purchase.orderLines[0]?.for[0]?.order).toMatchObject({ number: made.number });
    expect(await world.audit()).toEqual([]);
  });

  it("buys for each of two orders what it lacks itself", async () => {
    const world = await demoWorld();
    const free = await freeOf(world, "CAN-12");
    const first = await order(world, [{ code: "CAN-12", quantity: String(free + 10) }]);
    const second = await order(world, [{ code: "CAN-12", quantity: "8" }], addDays(TODAY, 20));
    for (const { id } of [second, first]) await world.ok(routes.supplyOrder, { params: { id } });
    const needs = await Promise.all(
      [first, second].map(async ({ id }) => {
        const { orderLines } = await world.ok(routes.order, { params: { id } });
        return orderLines[0]?.takes[0]?.purchases.map((need) => need.quantity);
      }),
    );
    expect(needs).toEqual([["10"], ["8"]]);
    const { purchases } = await world.ok(routes.purchases, {});
    expect(purchases).toHaveLength(1);
  });

  it("links suggestions of the reorder view that are accepted to the orders that lack what they bring, the rest is for stock", async () => {
    const world = await demoWorld();
    const cans = await freeOf(world, "CAN-12");
    const hives = await freeOf(world, "HIVE-N");
    const first = await order(world, [{ code: "CAN-12", quantity: String(cans + 10) }]);
    const second = await order(world, [{ code: "CAN-12", quantity: "8" }], addDays(TODAY, 20));
    const third = await order(world, [{ code: "HIVE-N", quantity: String(hives + 2), toBuild: "0" }]);
    const [can, hive] = [await world.idOf("CAN-12"), await world.idOf("HIVE-N")];
    const line = { item: can, supplier: null, quantity: "30", price: null };
    const accepted = await world.ok(routes.acceptSuggestions, {
      body: { buy: [line], build: [{ item: hive, quantity: "5", day: addDays(TODAY, 9) }] },
    });
    const bought = await world.ok(routes.purchase, { params: { id: accepted.purchases[0]?.id ?? 0 } });
    expect(bought.orderLines[0]?.for.map((need) => [need.order?.number, need.quantity])).toEqual([
      [first.number, "10"],
      [second.number, "8"],
    ]);
    const built = await world.ok(routes.build, { params: { id: accepted.builds[0]?.id ?? 0 } });
    expect([built.wanted, built.orders.map((own) => [own.number, own.quantity])]).toEqual([
      "5",
      [[third.number, "2"]],
    ]);
    const twice = await world.call(routes.acceptSuggestions, { body: { buy: [line, line], build: [] } });
    expect(fieldsOf(twice.error)).toEqual(["buy.1 invalid-input"]);
    // Accepted again, what the drafts are for already is not linked twice.
    await world.ok(routes.acceptSuggestions, { body: { buy: [line], build: [] } });
    const again = await world.ok(routes.purchase, { params: { id: bought.id } });
    expect([again.orderLines[0]?.quantity, again.orderLines[0]?.for.length]).toEqual(["60", 2]);
    expect(await world.audit()).toEqual([]);
  });

  it("gives accepted units to the orders that lack them by precedence, and only then by wanted date", async () => {
    const acceptOne = async (precedence: number | null) => {
      const world = await demoWorld();
      const hives = await freeOf(world, "HIVE-N");
      const asked = { code: "HIVE-N", quantity: String(hives + 1), toBuild: "0" };
      const early = await order(world, [asked]);
      const late = await order(world, [asked], addDays(TODAY, 30));
      const params = { id: late.id };
      await world.ok(routes.setPrecedence, { params, version: late.version, body: { precedence } });
      // Both lack some whoever is first; the one unit goes to whose turn it is.
      const { builds } = await world.ok(routes.acceptSuggestions, {
        body: { buy: [], build: [{ item: await world.idOf("HIVE-N"), quantity: "1" }] },
      });
      const built = await world.ok(routes.build, { params: { id: builds[0]?.id ?? 0 } });
      return built.orders.map(({ number }) => (number === early.number ? "early" : "late"));
    };
    expect([await acceptOne(null), await acceptOne(1)]).toEqual([["early"], ["late"]]);
  });

  it("offers an order to follow its build: to the day on which that is due, and to what it gives", async () => {
    const world = await demoWorld();
    const free = await freeOf(world, "HIVE-N");
    const hives = [{ code: "HIVE-N", quantity: String(free + 6), toBuild: "6" }];
    const made = await order(world, hives, addDays(TODAY, 3));
    const id = made.builds[0]?.id ?? 0;
    const offers = async () => (await world.ok(routes.ordersToFollow, { params: { id } })).offers;
    expect(await offers()).toEqual([]);
    const { version, list, options, orders, customer, ...build } = await world.ok(routes.build, {
      params: { id },
    });
    await world.ok(routes.changeBuild, {
      params: { id },
      version,
      body: { ...PLAIN_BUILD, quantity: "4", due: addDays(TODAY, 8), note: build.note },
    });
    const [offer] = await offers();
    expect(offer).toMatchObject({
      number: made.number,
      due: { from: addDays(TODAY, 3), to: addDays(TODAY, 8) },
      quantity: { from: String(free + 6), to: String(free + 4) },
    });
    const follow = (body: object, of = offer?.version ?? 0) =>
      world.call(routes.followBuild, { params: { id: made.id, line: offer?.line ?? 0 }, version: of, body });
    const moved = await follow({ due: offer?.due?.to });
    expect(moved.answer).toMatchObject({ due: addDays(TODAY, 8) });
    expect((await follow({ quantity: "4" })).error.code).toBe("stale");
    const other = await world.call(routes.followBuild, {
      params: { id: made.id, line: 9999 },
      version: moved.answer.version,
      body: { quantity: "1" },
    });
    expect(other.error.code).toBe("not-found");
    const fewer = await follow({ quantity: offer?.quantity?.to }, moved.answer.version);
    expect([fewer.answer.orderLines[0]?.quantity, await offers()]).toEqual([String(free + 4), []]);
    expect(await world.audit()).toEqual([]);
  });

  it("goes on after rejects: what its build can't give any more is built again", async () => {
    const world = await demoWorld();
    const made = await order(world, [{ code: "FRM-A", quantity: "6", toBuild: "6" }]);
    const build = made.builds[0]?.id ?? 0;
    await world.ok(routes.queueBuild, { params: { id: build } });
    await world.ok(routes.finishBuild, {
      params: { id: build },
      body: finishOf("4", { rejected: "2", reason: "Split" }),
    });
    const after = await world.ok(routes.order, { params: { id: made.id } });
    const [frame] = after.orderLines[0]?.takes ?? [];
    expect(Number(frame?.ready) + Number(frame?.coming) + Number(frame?.missing)).toBe(6);
    expect(await world.audit()).toEqual([]);
  });
});

it("does not offer what is not for sale on an order, and says why", async () => {
  const world = await demoWorld();
  const item = await world.idOf("CARD-C");
  const { ownPrice, ...sheet } = await world.ok(routes.item, { params: { id: item } });
  await world.ok(routes.changeItem, {
    params: { id: item },
    body: { ...sheet, price: ownPrice, notForSale: true },
  });
  const answer = await world.call(routes.newOrder, {
    body: await bodyOf(world, [{ code: "CARD-C", quantity: "1" }]),
  });
  expect(answer.error.fields).toMatchObject([
    { field: "lines.0.item", message: "CARD-C is not for sale. Change that in the catalog first." },
  ]);
  // In a kit it is sold still.
  expect((await order(world, [{ code: "KIT-CARE", quantity: "1" }])).lines).toBe(1);
});
