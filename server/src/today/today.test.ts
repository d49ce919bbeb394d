import { PLAIN_BUILD, routes } from "@yosegi/contract";
import { addDays } from "@yosegi/core";
import { afterEach, expect, it } from "vitest";
import { orderOf } from "../testing/ordering.ts";
import { closeWorlds, demoWorld, TODAY } from "../testing/world.ts";

afterEach(closeWorlds);

it("lists what to do next by when it is needed, each with its step, and the coming ten days", async () => {
  const world = await demoWorld();
  const ready = await orderOf(world, [["GLV-M", "2", "14.50"]], addDays(TODAY, 2));
  const short = await orderOf(world, [["HTL-J", "5000", "9.60"]], addDays(TODAY, -1));
  await world.queued("HIVE-N", "1");
  const { tasks, days, total } = await world.ok(routes.today, {});
  expect(total).toBe(3);
  expect(tasks.map(({ number, step, late, why }) => [number, step, late, why])).toEqual([
    [short.number, "look", true, "1 line short"],
    [ready.number, "pick", false, ""],
    ["B-1", "pick", false, ""],
  ]);
  expect(days.map(({ shipments }) => shipments)).toEqual([0, 0, 1, 0, 0, 0, 0, 0, 0, 0]);
  // In a round it goes on there; once all is packed it is to be shipped.
  const round = await world.ok(routes.startRound, { body: { documents: [{ kind: "order", id: ready.id }] } });
  const walked = await world.ok(routes.today, {});
  expect(walked.tasks.find(({ number }) => number === ready.number)?.round).toBe(round.id);
  const [stop] = round.stops;
  await world.ok(routes.fetchPick, {
    params: { id: round.id },
    body: {
      location: stop?.location ?? 0,
      bin: stop?.bin ?? "",
      item: stop?.item.id ?? 0,
      quantity: "2",
      day: TODAY,
    },
  });
  await world.ok(routes.endRound, { params: { id: round.id } });
  const packed = await world.ok(routes.today, {});
  expect(packed.tasks.find(({ number }) => number === ready.number)).toMatchObject({
    step: "ship",
    round: null,
  });
  // What is assigned to who asks is theirs.
  const product = await world.idOf("HIVE-N");
  const mine = await world.ok(routes.newBuild, {
    body: { ...PLAIN_BUILD, product, quantity: "1", assigned: 1 },
  });
  const theirs = (await world.ok(routes.today, {})).tasks.find(({ number }) => number === mine.number);
  expect(theirs).toMatchObject({ mine: true, step: "queue" });
});
