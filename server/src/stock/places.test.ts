import { routes } from "@yosegi/contract";
import { addDays, decimal, sum } from "@yosegi/core";
import { afterEach, expect, it } from "vitest";
import { read } from "../db/index.ts";
import { Chance } from "../testing/chance.ts";
import { doSomething, startHistory } from "../testing/history.ts";
import { leaving, orderOf, shipmentOf } from "../testing/ordering.ts";
import { closeWorlds, demoWorld, TODAY } from "../testing/world.ts";
import { itemsAt } from "./places.ts";

afterEach(closeWorlds);

const LATER = addDays(TODAY, 25);

it("is what balances and pools say today, and the plain sum of movements on any day before", async () => {
  const world = await demoWorld();
  world.store.now = () => new Date(`${LATER}T09:00:00Z`);
  const chance = new Chance(5);
  const history = await startHistory(world, chance, () => addDays(LATER, -chance.int(0, 20)), 5);
  for (let n = 0; n < 220; n++) await doSomething(history);
  await read(world.store, async (ctx) => {
    const now = await itemsAt(ctx, LATER);
    const kept = await ctx.sql.all<{ item: number; quantity: number; value: number }>(
      `SELECT p.item_id AS item, SUM(p.quantity) AS quantity, SUM(p.value) AS value FROM pool p GROUP BY 1`,
    );
    for (const { item, quantity, value } of kept) {
      const places = now.get(item) ?? [];
      expect(
        sum(places.map((at) => at.quantity))
          .times(1_000_000)
          .toFixed(),
      ).toBe(String(quantity));
      expect(
        sum(places.map((at) => at.value))
          .times(10_000)
          .toFixed(),
      ).toBe(String(value));
    }
    const moves = await ctx.sql.all<{
      item: number;
      day: string;
      quantity: number;
      value: number;
      arrives: number;
      leaves: number;
    }>(
      `SELECT m.item_id AS item, o.day, m.quantity, m.value, m.from_location IS NULL AS arrives, m.to_location IS NULL AS leaves
         FROM movement m JOIN posting o ON o.id = m.posting_id`,
    );
    for (const back of [0, 3, 9, 18, 30]) {
      const day = addDays(LATER, -back);
      const then = await itemsAt(ctx, day);
      for (const item of new Set(moves.map((move) => move.item))) {
        let [quantity, value] = [0, 0];
        for (const move of moves.filter((one) => one.item === item && one.day <= day)) {
          quantity += move.quantity * (move.arrives - move.leaves);
          value += move.value * (move.arrives - move.leaves);
        }
        const places = then.get(item) ?? [];
        expect(
          sum(places.map((at) => at.quantity))
            .times(1_000_000)
            .toFixed(),
        ).toBe(String(quantity));
        expect(
          sum(places.map((at) => at.value))
            .times(10_000)
            .toFixed(),
        ).toBe(String(value));
      }
    }
  });
  const answer = await world.ok(routes.stockPlaces, { query: { day: LATER, limit: 5 } });
  expect(answer.items).toHaveLength(5);
  const totals = sum(answer.totals.map(({ value }) => decimal(value)));
  expect(totals.eq(answer.value)).toBe(true);
});

it("lists what is with customers beside it, without a value, until it comes back", async () => {
  const world = await demoWorld();
  const order = await orderOf(world, [["HTL-J", "2", "9.60"]]);
  const shipped = await world.ok(routes.shipOrder, {
    params: { id: order.id },
    body: shipmentOf([leaving(order.orderLines[0])]),
  });
  const at = async () => {
    const { items, value, totals } = await world.ok(routes.stockPlaces, { query: { search: "HTL-J" } });
    // What is said of all is said of what was searched for.
    expect(totals).toEqual([{ place: "Front store", value }]);
    expect(items[0]?.places.find(({ place }) => place === "Front store")?.value).toBe(value);
    return items[0]?.places.find(({ place }) => place === "With customers");
  };
  expect(await at()).toEqual({ place: "With customers", quantity: "2", value: "0.0000" });
  await world.ok(routes.undoShipment, { params: { id: shipped.id }, body: {} });
  expect(await at()).toBeUndefined();
});
