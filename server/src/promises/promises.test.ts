import { routes } from "@yosegi/contract";
import { addDays } from "@yosegi/core";
import fc from "fast-check";
import { expect, it } from "vitest";
import { demoWorld, TODAY, type World } from "../testing/world.ts";

const customersOf = async (world: World) =>
  (await world.ok(routes.firms, { query: { kind: "customer" } })).firms.map((firm) => firm.id);

const orderOf = (world: World, id: number) => world.ok(routes.order, { params: { id } });

it("promises the day that the check gives, on the preview, on the order, and for whoever asks", async () => {
  const world = await demoWorld();
  const [customer] = await customersOf(world);
  const item = await world.idOf("HIVE-N");
  const { free } = await world.ok(routes.item, { params: { id: item } });
  const quantity = String(Number(free) + 28);
  const { demand } = await world.check(item, "28");
  const body = { customer, due: TODAY, lines: [{ item, quantity }] };
  const preview = await world.ok(routes.previewOrder, { body: { order: null, ...body } });
  expect(preview.lines[0]?.promise.day).toBe(demand.finish);
  expect(preview.promise).toMatchObject({
    day: demand.finish,
    complete: false,
    heldBy: { line: 0, waitsFor: { how: "to build", quantity: "28" } },
  });
  const promised = preview.lines[0]?.promise.day ?? null;
  const order = await world.ok(routes.newOrder, {
    body: { ...body, lines: [{ item, quantity, promised }] },
  });
  expect(order).toMatchObject({ promise: { day: promised }, promised, late: false });
  expect((await orderOf(world, order.id)).orderLines[0]).toMatchObject({
    promise: { day: promised },
    promised,
  });
  const again = await world.ok(routes.previewOrder, {
    body: { order: order.id, ...body, lines: [{ id: order.orderLines[0]?.id, item, quantity }] },
  });
  expect(again.lines[0]?.promise).toEqual(preview.lines[0]?.promise);
  // A day that has passed is taken as it was said, and marked.
  const { version, orderLines } = await orderOf(world, order.id);
  const past = await world.ok(routes.changeOrder, {
    params: { id: order.id },
    version,
    body: { ...body, lines: [{ id: orderLines[0]?.id, item, quantity, promised: addDays(TODAY, -3) }] },
  });
  expect(past).toMatchObject({ promised: addDays(TODAY, -3), late: true });
});

it("says what would help: whose stock it is, what is on its way, and what has to be ordered", async () => {
  const world = await demoWorld();
  const [first, second] = await customersOf(world);
  const item = await world.idOf("CAN-12");
  const free = Number((await world.ok(routes.item, { params: { id: item } })).free);
  const early = await world.ok(routes.newOrder, {
    body: { customer: first, due: addDays(TODAY, 1), lines: [{ item, quantity: String(free - 2) }] },
  });
  const body = { order: null, customer: second, due: addDays(TODAY, 2), lines: [{ item, quantity: "3" }] };
  const { promise } = await world.ok(routes.previewOrder, { body });
  expect((await world.ok(routes.previewLosers, { body })).takesFrom).toEqual([]);
  expect(promise).toMatchObject({
    complete: false,
    heldBy: {
      waitsFor: { how: "to order", quantity: "1", day: addDays(TODAY, 5) },
      stockFor: [{ id: early.id, quantity: String(free - 2) }],
    },
  });
  const sooner = await world.ok(routes.previewLosers, { body: { ...body, due: TODAY } });
  expect(sooner.takesFrom).toEqual([
    {
      id: early.id,
      number: early.number,
      customer: expect.any(String),
      before: TODAY,
      after: addDays(TODAY, 5),
    },
  ]);
  // A service needs no stock; what nobody supplies and no list makes is unknown.
  const work = await world.ok(routes.previewOrder, {
    body: { ...body, lines: [{ item: await world.idOf("LAB-B"), quantity: "1" }] },
  });
  expect(work.promise).toEqual({ day: TODAY, complete: true, heldBy: null });
  const unknown = await world.ok(routes.previewOrder, {
    body: { ...body, lines: [{ item: await world.idOf("EXT-2R"), quantity: "900" }] },
  });
  expect(unknown.promise).toMatchObject({ day: null, heldBy: { waitsFor: { how: "unknown" } } });
});

it("says beforehand exactly whose promise moves, and that is what moves", async () => {
  const orders = fc.array(
    fc.record({
      // A product, its part, a kit that holds both a product and bought goods.
      code: fc.constantFrom("HIVE-N", "FRM-A", "BOX-D", "KIT-YARD"),
      quantity: fc.integer({ min: 1, max: 60 }),
      due: fc.option(fc.nat(20)),
      precedence: fc.option(fc.integer({ min: 1, max: 3 })),
    }),
    { minLength: 2, maxLength: 6 },
  );
  await fc.assert(
    fc.asyncProperty(orders, async (all) => {
      const world = await demoWorld();
      const [customer] = await customersOf(world);
      const ids: number[] = [];
      const daysOf = async () =>
        new Map(
          await Promise.all(ids.map(async (id) => [id, (await orderOf(world, id)).promise?.day] as const)),
        );
      const moved = (before: ReadonlyMap<number, unknown>, after: ReadonlyMap<number, unknown>) =>
        [...before].filter(([id, day]) => after.get(id) !== day).map(([id]) => id);
      for (const { code, quantity, due } of all) {
        const before = await daysOf();
        const body = {
          customer,
          due: due === null ? null : addDays(TODAY, due),
          lines: [{ item: await world.idOf(code), quantity: String(quantity) }],
        };
        const preview = await world.ok(routes.previewOrder, { body: { order: null, ...body } });
        const said = await world.ok(routes.previewLosers, { body: { order: null, ...body } });
        const order = await world.ok(routes.newOrder, { body });
        expect(order.promise).toEqual(preview.promise);
        expect(order.takesFrom).toEqual(said.takesFrom);
        const after = await daysOf();
        // Nobody leaves later without being named.
        for (const id of moved(before, after)) expect(order.takesFrom.map((taken) => taken.id)).toContain(id);
        ids.push(order.id);
      }
      for (const [i, { precedence }] of all.entries()) {
        const id = ids[i] ?? 0;
        const before = await daysOf();
        const said = await world.ok(routes.precedenceMoves, { params: { id }, body: { precedence } });
        const { version } = await orderOf(world, id);
        const order = await world.ok(routes.setPrecedence, { params: { id }, version, body: { precedence } });
        expect([order.precedence, order.promise?.day]).toEqual([precedence, said.day]);
        const after = await daysOf();
        const others = moved(before, after).filter((other) => other !== id);
        const days = (pairs: [number, unknown][]) => pairs.sort(([a], [b]) => a - b);
        expect(days(said.moves.map((move) => [move.id, move.after]))).toEqual(
          days(others.map((other) => [other, after.get(other)])),
        );
      }
      expect(await world.audit()).toEqual([]);
    }),
    { numRuns: 10 },
  );
}, 300_000);
