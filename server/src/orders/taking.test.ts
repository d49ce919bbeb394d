import { routes } from "@yosegi/contract";
import { addDays } from "@yosegi/core";
import { expect, it } from "vitest";
import { demoWorld, TODAY } from "../testing/world.ts";

it("an order that is due earlier says whose stock it takes; one that takes nobody's says nothing", async () => {
  const { ok, idOf } = await demoWorld();
  const { firms } = await ok(routes.firms, { query: { kind: "customer" } });
  const [first, second] = firms;
  const item = await idOf("CAN-12");
  const free = Number((await ok(routes.item, { params: { id: item } })).free);
  const order = (customer: number | undefined, due: string | null, quantity: number) =>
    ok(routes.newOrder, { body: { customer, due, lines: [{ item, quantity: String(quantity) }] } });
  const late = await order(first?.id, "2026-12-20", free - 2);
  expect(late.takesFrom).toEqual([]);
  // Two are left; the third is taken from the one that is due later.
  const early = await order(second?.id, "2026-12-01", 3);
  // Petal & Pane Packaging takes five days.
  const moved = { id: late.id, number: late.number, customer: first?.name };
  expect(early.takesFrom).toEqual([{ ...moved, before: TODAY, after: addDays(TODAY, 5) }]);
  const lines = early.orderLines.map((line) => ({ id: line.id, item, quantity: "2" }));
  const changed = await ok(routes.changeOrder, {
    params: { id: early.id },
    body: { customer: second?.id, due: "2026-12-01", lines },
  });
  expect(changed.takesFrom).toEqual([]);
  const undated = await order(second?.id, null, 5);
  expect(undated.takesFrom).toEqual([]);
});
