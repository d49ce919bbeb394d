import { type AnswerOf, routes } from "@yosegi/contract";
import { decimal, sum } from "@yosegi/core";
import { expect, it } from "vitest";
import { firmId } from "../testing/companies.ts";
import type { World } from "../testing/open.ts";
import { demoWorld, finishOf } from "../testing/world.ts";

const ROUNDS = 10;

/** Work that moves figures of many answers at once: an order taken, its build made and finished in part, and both ended. */
async function work(world: World, customer: number, product: number): Promise<void> {
  const line = { item: product, quantity: "9" };
  const order = await world.ok(routes.newOrder, { body: { customer, lines: [line] } });
  const params = { id: order.id };
  const { builds } = await world.ok(routes.buildForOrder, { params, body: { lines: [] } });
  for (const { id } of builds) {
    await world.ok(routes.queueBuild, { params: { id } });
    await world.ok(routes.finishBuild, {
      params: { id },
      body: finishOf("1", { lot: `AF-${id}`, rejected: "1", reason: "leaks" }),
    });
    await world.ok(routes.undoFinish, { params: { id }, body: {} });
    await world.ok(routes.cancelBuild, { params: { id } });
  }
  await world.ok(routes.cancelOrder, { params });
}

/** Whether all figures of one order are of one moment. */
function agrees(order: AnswerOf<typeof routes.order>): boolean {
  if (order.stage !== "open") return true;
  const takes = order.orderLines.flatMap((line) => line.takes);
  const whole = takes.every((take) =>
    sum([take.ready, take.coming, take.missing].map(decimal)).eq(take.open),
  );
  const missing = order.orderLines.filter((line) => line.takes.some((take) => take.missing !== "0")).length;
  return whole && missing === order.linesMissing;
}

it("readers beside writers never meet a failure, nor figures of two moments in one answer", async () => {
  const world = await demoWorld();
  const customer = await firmId(world, "customer", "TARN");
  const product = await world.idOf("FEED-12");
  let working = true;
  const writer = async () => {
    for (let n = 0; n < ROUNDS; n++) await work(world, customer, product);
  };
  const seen = { orders: 0, items: 0, builds: 0, other: 0 };
  const readOrders = async () => {
    while (working) {
      const { orders } = await world.ok(routes.orders);
      for (const { id } of orders.slice(0, 3)) {
        const order = await world.ok(routes.order, { params: { id } });
        expect([order.number, agrees(order)]).toEqual([order.number, true]);
        seen.orders++;
      }
    }
  };
  const readItems = async () => {
    while (working) {
      const { items } = await world.ok(routes.items, { query: { limit: 100 } });
      for (const item of items.filter(
        ({ kind, code }) => kind !== "kit" && kind !== "service" && code !== "SYR-72",
      ))
        expect([item.code, decimal(item.onHand).minus(item.reserved).toFixed()]).toEqual([
          item.code,
          item.free,
        ]);
      seen.items++;
    }
  };
  const readBuilds = async () => {
    while (working) {
      const { builds } = await world.ok(routes.builds);
      for (const { id } of builds.slice(0, 3)) {
        const build = await world.ok(routes.build, { params: { id } });
        const done = sum([build.good, build.rejected].map(decimal));
        expect([build.number, decimal(build.quantity).minus(done).toFixed()]).toEqual([
          build.number,
          build.open,
        ]);
        const told = build.finishes.filter((finish) => finish.undone === null);
        expect([build.number, sum(told.map((finish) => decimal(finish.good))).toFixed()]).toEqual([
          build.number,
          build.good,
        ]);
        seen.builds++;
      }
    }
  };
  const readOthers = async () => {
    while (working) {
      await world.ok(routes.waiting);
      await world.ok(routes.reorder);
      await world.ok(routes.openDemands);
      await world.ok(routes.cover, { body: { demands: [{ item: product, quantity: "9" }] } });
      seen.other++;
    }
  };
  const readers = [readOrders(), readOrders(), readItems(), readBuilds(), readOthers(), readOthers()];
  await writer().finally(() => {
    working = false;
  });
  await Promise.all(readers);
  expect(Math.min(...Object.values(seen))).toBeGreaterThan(5);
  expect(await world.audit()).toEqual([]);
});
