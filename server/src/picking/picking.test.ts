import {
  type ErrorAnswer,
  type FetchBody,
  type PickRound,
  type PickStop,
  type Route,
  routes,
} from "@yosegi/contract";
import { afterEach, describe, expect, it } from "vitest";
import { takeIn } from "../testing/companies.ts";
import { leaving, orderOf, shipmentOf } from "../testing/ordering.ts";
import { closeWorlds, demoWorld, fieldsOf, TODAY, type World } from "../testing/world.ts";

afterEach(closeWorlds);

const refusal = async <R extends Route>(
  world: World,
  route: R,
  call: Parameters<World["call"]>[1],
): Promise<ErrorAnswer> => (await world.call(route, call)).error;

/** On hand in stores and reserved, as the check says. */
async function stockFigure(world: World, code: string) {
  const { items } = await world.ok(routes.items, { query: { search: code, limit: 1 } });
  const found = items.find((item) => item.code === code);
  return { onHand: found?.onHand ?? "", reserved: found?.reserved ?? "" };
}

type Ref = { kind: "order" | "build"; id: number };

const start = (world: World, ...documents: Ref[]) => world.ok(routes.startRound, { body: { documents } });

const fetchOf = (stop: PickStop | undefined, change: Partial<FetchBody> = {}): FetchBody => ({
  location: stop?.location ?? 0,
  bin: stop?.bin ?? "",
  item: stop?.item.id ?? 0,
  lot: stop?.lot ?? "",
  serial: stop?.serial ?? "",
  quantity: stop?.quantity ?? "0",
  there: null,
  more: false,
  reason: "",
  day: TODAY,
  ...change,
});

const take = (world: World, round: PickRound, stop: PickStop | undefined, change: Partial<FetchBody> = {}) =>
  world.ok(routes.fetchPick, { params: { id: round.id }, body: fetchOf(stop, change) });

const refuse = async (world: World, round: PickRound, body: FetchBody) =>
  fieldsOf(await refusal(world, routes.fetchPick, { params: { id: round.id }, body }));

const stopOf = ({ stops }: PickRound, code: string) => stops.find((stop) => stop.item.code === code);

const sheetOf = (world: World, order: { id: number }) => world.ok(routes.order, { params: { id: order.id } });

describe("an order is picked", () => {
  it("until it is cancelled: what was fetched is back in its bin, and the round says so", async () => {
    const world = await demoWorld();
    const order = await orderOf(world, [["HTL-J", "3", "9.60"]]);
    const before = await stockFigure(world, "HTL-J");
    const round = await start(world, { kind: "order", id: order.id });
    await take(world, round, stopOf(round, "HTL-J"));
    await world.ok(routes.cancelOrder, { params: { id: order.id } });
    const { documents, stops } = await world.ok(routes.pickRound, { params: { id: round.id } });
    expect([documents[0]?.next, stops]).toEqual(["cancelled", []]);
    expect((await stockFigure(world, "HTL-J")).onHand).toBe(before.onHand);
  });

  it("into a bin of its own: still ours, reserved no more, and shipped from there", async () => {
    const world = await demoWorld();
    const order = await orderOf(world, [["HTL-J", "3", "9.60"]]);
    const before = await stockFigure(world, "HTL-J");
    const round = await start(world, { kind: "order", id: order.id });
    expect(round.number).toBe("PR-1");
    const stop = stopOf(round, "HTL-J");
    expect(stop?.quantity).toBe("3");
    const partly = await take(world, round, stop, { quantity: "2" });
    expect(stopOf(partly, "HTL-J")?.quantity).toBe("1");
    expect(partly.documents[0]).toMatchObject({ fetched: 0, lines: 1, next: "pick" });
    const after = await stockFigure(world, "HTL-J");
    // Two are packed: fewer on hand in stores, and fewer reserved. What is free is the same.
    expect(Number(before.onHand) - Number(after.onHand)).toBe(2);
    expect(Number(before.reserved) - Number(after.reserved)).toBe(2);
    const done = await take(world, round, stopOf(partly, "HTL-J"));
    expect(done.stops).toEqual([]);
    expect(done.documents[0]).toMatchObject({ fetched: 1, lines: 1, next: "ship" });
    const sheet = await sheetOf(world, order);
    expect(sheet.orderLines[0]).toMatchObject({ ready: "3", open: "3" });
    expect(sheet.orderLines[0]?.takes[0]).toMatchObject({ packed: "3", ready: "3", missing: "0" });
    const shipped = await world.ok(routes.shipOrder, {
      params: { id: order.id },
      body: shipmentOf([leaving(sheet.orderLines[0])]),
    });
    expect(shipped.shipped[0]?.components[0]?.taken).toMatchObject([{ store: "Packed", bin: order.number }]);
    await world.ok(routes.undoShipment, { params: { id: shipped.id }, body: { finishes: false } });
    expect((await sheetOf(world, order)).orderLines[0]?.takes[0]).toMatchObject({ packed: "3", open: "3" });
    expect(await world.audit()).toEqual([]);
  });

  it("and what is packed goes back where it came from when the order asks for less, or ends", async () => {
    const world = await demoWorld();
    const order = await orderOf(world, [["HTL-J", "3", "9.60"]]);
    const before = await stockFigure(world, "HTL-J");
    const round = await start(world, { kind: "order", id: order.id });
    await take(world, round, round.stops[0]);
    const sheet = await sheetOf(world, order);
    const [line] = sheet.orderLines;
    await world.ok(routes.changeOrder, {
      params: { id: order.id },
      body: {
        customer: sheet.customer.id,
        lines: [{ id: line?.id ?? 0, item: line?.item.id ?? 0, quantity: "1", price: "9.60" }],
      },
    });
    expect((await sheetOf(world, order)).orderLines[0]?.takes[0]).toMatchObject({ packed: "1", open: "1" });
    expect(await world.audit()).toEqual([]);
    await world.ok(routes.cancelOrder, { params: { id: order.id } });
    expect(await world.audit()).toEqual([]);
    const after = await stockFigure(world, "HTL-J");
    expect(after.onHand).toBe(before.onHand);
    const { movements } = await world.ok(routes.movements, { query: { document: order.number } });
    expect(movements.map(({ to, quantity }) => `${quantity} to ${to}`)).toEqual([
      `1 to ${round.stops[0]?.store} ${round.stops[0]?.bin}`,
      `2 to ${round.stops[0]?.store} ${round.stops[0]?.bin}`,
    ]);
  });

  it("and unpacked by a person; nothing packed is said so", async () => {
    const world = await demoWorld();
    const order = await orderOf(world, [["HTL-J", "3", "9.60"]]);
    const unpack = { params: { id: order.id } };
    expect((await refusal(world, routes.unpackOrder, unpack)).code).toBe("nothing-packed");
    const round = await start(world, { kind: "order", id: order.id });
    await take(world, round, round.stops[0]);
    await world.ok(routes.unpackOrder, unpack);
    expect((await sheetOf(world, order)).orderLines[0]?.takes[0]).toMatchObject({ packed: "0", open: "3" });
    expect(await world.audit()).toEqual([]);
  });
});

describe("a round over several", () => {
  it("adds up what lies in one bin, and deals out what was fetched in turn", async () => {
    const world = await demoWorld();
    const late = await orderOf(world, [["HTL-J", "6", "9.60"]], null);
    const first = await orderOf(world, [["HTL-J", "5", "9.60"]], "2026-11-24");
    const second = await orderOf(world, [["HTL-J", "4", "9.60"]], "2026-11-25");
    const round = await start(world, ...[late, first, second].map(({ id }): Ref => ({ kind: "order", id })));
    const stop = stopOf(round, "HTL-J");
    expect(stop?.quantity).toBe("15");
    await take(world, round, stop, { quantity: "12" });
    const packed = async (order: { id: number }) =>
      (await sheetOf(world, order)).orderLines[0]?.takes[0]?.packed;
    expect(await Promise.all([first, second, late].map(packed))).toEqual(["5", "4", "3"]);
    expect(await world.audit()).toEqual([]);
  });

  it("hands parts out to a build's bench as they are fetched, and undoes one fetch alone", async () => {
    const world = await demoWorld();
    const build = { id: await world.queued("HIVE-N", "1") };
    const round = await start(world, { kind: "build", id: build.id });
    const codes = round.stops.map(({ item }) => item.code).sort();
    expect(codes).toEqual(["BOX-D", "CRN-B", "FLR-M", "FRM-A", "ROOF-M"]);
    await take(world, round, stopOf(round, "BOX-D"));
    const roof = await take(world, round, stopOf(round, "ROOF-M"));
    const bench = async () => {
      const sheet = await world.ok(routes.build, { params: { id: build.id } });
      return [
        sheet.stage,
        ...sheet.lines.filter((line) => line.bench !== "0").map(({ item, bench: n }) => `${n} ${item.code}`),
      ];
    };
    expect(await bench()).toEqual(["on the bench", "2 BOX-D", "1 ROOF-M"]);
    const back = await world.ok(routes.undoFetch, {
      params: { id: round.id },
      body: { posting: roof.fetched[0]?.posting ?? 0 },
    });
    expect(stopOf(back, "ROOF-M")?.quantity).toBe("1");
    expect(await bench()).toEqual(["on the bench", "2 BOX-D"]);
    await world.ok(routes.undoFetch, {
      params: { id: round.id },
      body: { posting: back.fetched[0]?.posting ?? 0 },
    });
    expect(await bench()).toEqual(["queued"]);
    expect(await world.audit()).toEqual([]);
  });

  it("sends two pickers to different pieces, and refuses a document that is in a round already", async () => {
    const world = await demoWorld();
    const one = await orderOf(world, [["SCL-E", "1", "99"]]);
    const two = await orderOf(world, [["SCL-E", "1", "99"]]);
    const first = await start(world, { kind: "order", id: one.id });
    const second = await start(world, { kind: "order", id: two.id });
    expect(first.stops[0]?.serial).not.toBe(second.stops[0]?.serial);
    const again = await refusal(world, routes.startRound, {
      body: { documents: [{ kind: "order", id: one.id }] },
    });
    expect(fieldsOf(again)).toEqual(["documents.0 in-round"]);
    await world.ok(routes.endRound, { params: { id: first.id } });
    const anew = await start(world, { kind: "order", id: one.id });
    expect(anew.stops[0]?.serial).toBe(first.stops[0]?.serial);
    const ended = await refusal(world, routes.fetchPick, {
      params: { id: first.id },
      body: fetchOf(first.stops[0]),
    });
    expect(ended.code).toBe("round-ended");
  });
});

describe("a fetch", () => {
  it("of less than the books say counts the bin, and goes on to the next bin", async () => {
    const world = await demoWorld();
    const item = await world.idOf("HTL-J");
    const order = await orderOf(world, [["HTL-J", "3", "9.60"]]);
    await takeIn(world, item, "9", { unitCost: "5.10", store: "Yard", bin: "Y1-A" });
    const round = await start(world, { kind: "order", id: order.id });
    const stop = stopOf(round, "HTL-J");
    // One lies there, and nothing else.
    const after = await take(world, round, stop, { quantity: "1", there: "0" });
    expect(after.stops.map(({ store, bin, quantity }) => [store, bin, quantity])).toEqual([
      ["Yard", "Y1-A", "2"],
    ]);
    const short = await world.ok(routes.leaveShort, {
      params: { id: round.id },
      body: { location: after.stops[0]?.location ?? 0, bin: "Y1-A", item },
    });
    expect(short.stops).toEqual([]);
    expect(short.missing).toMatchObject([{ quantity: "2", leftShort: true }]);
    expect(short.documents[0]).toMatchObject({ next: "wait" });
    expect(await world.audit()).toEqual([]);
  });

  it("says what is wrong and what was expected", async () => {
    const world = await demoWorld();
    const order = await orderOf(world, [["HTL-J", "3", "9.60"]]);
    const round = await start(world, { kind: "order", id: order.id });
    const stop = stopOf(round, "HTL-J");
    expect(await refuse(world, round, fetchOf(stop, { quantity: "0" }))).toEqual(["quantity fetch-nothing"]);
    expect(await refuse(world, round, fetchOf(stop, { quantity: "4" }))).toEqual([
      "quantity pick-more-for-order",
    ]);
    expect(await refuse(world, round, fetchOf(stop, { quantity: "1.5" }))).toEqual(["quantity decimals"]);
    expect(await refuse(world, round, fetchOf(stop, { bin: "99-Z" }))).toEqual(["quantity pick-not-there"]);
    expect(await refuse(world, round, fetchOf(stop, { item: await world.idOf("BOX-D") }))).toEqual([
      "item not-in-round",
    ]);
    // A device whose clock is fast books on today.
    await take(world, round, stop, { day: "2026-11-24" });
    const { movements } = await world.ok(routes.movements, { query: { document: round.number } });
    expect(movements[0]?.day).toBe(TODAY);
  });

  it("of more than a build needs is asked about", async () => {
    const world = await demoWorld();
    const build = { id: await world.queued("HIVE-N", "1") };
    const round = await start(world, { kind: "build", id: build.id });
    const stop = stopOf(round, "BOX-D");
    expect(await refuse(world, round, fetchOf(stop, { quantity: "3" }))).toEqual(["quantity pick-too-many"]);
    await take(world, round, stop, { quantity: "3", more: true });
    const sheet = await world.ok(routes.build, { params: { id: build.id } });
    expect(sheet.lines.find(({ item }) => item.code === "BOX-D")).toMatchObject({ bench: "3", open: "0" });
    expect(await world.audit()).toEqual([]);
  });

  it("of lots takes the one that is first to expire; another one where the picker may choose, or says why", async () => {
    const world = await demoWorld();
    const order = await orderOf(world, [["SYR-72", "3", "4.00"]]);
    const before = await start(world, { kind: "order", id: order.id });
    const [{ store = "", bin = "", lot = "", item: brief } = {}] = before.stops;
    await world.ok(routes.endRound, { params: { id: before.id } });
    const late = { unitCost: "1.35", store, bin, lot: "S-LATE", expiry: "2030-01-01" };
    await takeIn(world, brief?.id ?? 0, "9", late);
    const round = await start(world, { kind: "order", id: order.id });
    const stop = stopOf(round, "SYR-72");
    expect(stop?.lot).toBe(lot);
    const other = stop?.others.find((one) => one.lot === "S-LATE");
    const free = await take(world, round, stop, { quantity: "1", lot: other?.lot ?? "" });
    expect(free.fetched[0]).toMatchObject({ lot: other?.lot, reason: "" });
    const item = await world.ok(routes.item, { params: { id: stop?.item.id ?? 0 } });
    await world.ok(routes.changeItem, {
      params: { id: item.id },
      body: { ...item, price: item.ownPrice, lotFixed: true },
    });
    const body = fetchOf(stop, { quantity: "1", lot: other?.lot ?? "" });
    expect(await refuse(world, round, body)).toEqual(["reason lot-fixed"]);
    const reasoned = await take(world, round, stop, { ...body, reason: "the other one leaks" });
    expect(reasoned.fetched[0]).toMatchObject({ lot: other?.lot, reason: "the other one leaks" });
    expect(await world.audit()).toEqual([]);
  });
});

describe("what is packed is checked", () => {
  it("piece by piece, by whom, until something is packed or taken out again", async () => {
    const world = await demoWorld();
    const order = await orderOf(world, [["HTL-J", "3", "9.60"]]);
    const packed = () => world.ok(routes.packedOrder, { params: { id: order.id } });
    const check = (quantity: string, more: object[] = []) =>
      world.call(routes.checkPacked, {
        params: { id: order.id },
        body: { pieces: [{ item: order.orderLines[0]?.item.id, quantity }, ...more] },
      });
    expect((await check("1")).error.code).toBe("nothing-packed");
    const round = await start(world, { kind: "order", id: order.id });
    await take(world, round, stopOf(round, "HTL-J"), { quantity: "2" });
    expect(await packed()).toMatchObject({ packed: [{ quantity: "2" }], checked: null });
    expect((await check("1")).error.message).toBe("2 of HTL-J are packed, 1 were scanned.");
    const other = { item: await world.idOf("SMK-S"), quantity: "1" };
    expect((await check("2", [other])).error.code).toBe("packed-more");
    expect((await check("2")).answer.checked).toMatchObject({ person: "Ines" });
    const rest = await world.ok(routes.pickRound, { params: { id: round.id } });
    await take(world, rest, stopOf(rest, "HTL-J"), { quantity: "1" });
    expect((await packed()).checked).toBeNull();
    expect((await check("3")).status).toBe(200);
    await world.ok(routes.unpackOrder, { params: { id: order.id } });
    expect(await packed()).toMatchObject({ packed: [], checked: null });
    expect(await world.audit()).toEqual([]);
  });
});

it("the list says what each round is for, and pages through the others", async () => {
  const world = await demoWorld();
  const first = await orderOf(world, [["HTL-J", "1", "9.60"]]);
  const build = await world.queued("FEED-12", "2");
  const others = [];
  for (let i = 0; i < 3; i++) others.push(await orderOf(world, [["SMK-S", "1", "27.90"]]));
  await world.ok(routes.startRound, {
    body: {
      documents: [
        { kind: "order", id: first.id },
        { kind: "build", id: build },
      ],
    },
  });
  const page = await world.ok(routes.picks, { query: { limit: 2 } });
  expect(page.rounds.map(({ documents }) => documents.toSorted())).toEqual([["B-1", "O-1"]]);
  expect([page.total, page.picks.map(({ number }) => number)]).toEqual([3, ["O-2", "O-3"]]);
  const rest = await world.ok(routes.picks, { query: { limit: 2, after: page.next ?? "" } });
  expect([rest.picks.map(({ number }) => number), rest.next]).toEqual([["O-4"], null]);
  expect((await world.ok(routes.picks, { query: { store: "Yard" } })).picks).toEqual([]);
  expect((await world.ok(routes.picks, { query: { search: "o-3" } })).total).toBe(1);
});
