import { routes } from "@yosegi/contract";
import { afterEach, expect, it } from "vitest";
import { firmId, takeIn } from "../testing/companies.ts";
import { leaving, orderOf, shipmentOf } from "../testing/ordering.ts";
import { finish, good, part } from "../testing/reworking.ts";
import { closeWorlds, demoWorld, finishOf, TODAY } from "../testing/world.ts";

afterEach(closeWorlds);

it("the card and the trace of a unit tell its whole life: built, shipped, returned, reworked, shipped again", async () => {
  const world = await demoWorld();
  const [hive, customer] = [await world.idOf("HIVE-C"), await firmId(world, "customer", "ASHG")];
  await takeIn(world, await world.idOf("HIVE-N"), "1", { unitCost: "148.00" });
  const build = await world.queued("HIVE-C", "1");
  const made = finishOf("1", { serials: ["H-1"] });
  await world.ok(routes.finishBuild, { params: { id: build }, body: made });
  const ship = async () => {
    const order = await orderOf(world, [["HIVE-C", "1", "260.00"]]);
    const only = { only: [{ item: hive, codes: ["H-1"] }] };
    const body = shipmentOf([leaving(order.orderLines[0], "1", only)]);
    await world.ok(routes.shipOrder, { params: { id: order.id }, body });
  };
  await ship();
  const line = { item: hive, serial: "H-1", quantity: "1", credit: "200.00" };
  const came = await world.ok(routes.newReturn, {
    body: { customer, day: TODAY, reason: "wet", lines: [line] },
  });
  const returnLine = { id: came.id, line: 1 };
  const { id } = await world.ok(routes.newRework, {
    body: { item: hive, day: TODAY, units: [{ serial: "H-1", quantity: "1", returnLine }] },
  });
  await part(world, id, "BELT-X", "1");
  expect((await finish(world, id, [good(1)])).status).toBe(200);
  await ship();
  const card = await world.ok(routes.piece, { query: { item: hive, serial: "H-1" } });
  expect(card).toMatchObject({
    build: { number: "B-1" },
    reworks: [{ number: "W-1" }],
    was: null,
    warranty: { shipment: { number: "S-2" }, customer: { id: customer } },
  });
  expect(card.gone).toContain("with a customer");
  expect(card.contents.map((own) => [own.item.code, own.rework?.number ?? null])).toEqual([
    ["SCL-E", null],
    ["HIVE-N", null],
    ["BELT-X", "W-1"],
  ]);
  const { units } = await world.ok(routes.heldUnits, { params: { id: customer } });
  expect(units).toMatchObject([{ serial: "H-1", contents: card.contents, reworks: [{ number: "W-1" }] }]);
  const steps = async (direction: "forward" | "backward") =>
    (await world.ok(routes.trace, { query: { item: hive, serial: "H-1", direction } })).steps
      .filter(({ from }) => from === 0)
      .map((own) => [own.document, own.end]);
  expect(await steps("forward")).toEqual([
    ["S-1", "with a customer"],
    ["W-1", "seen already"],
    ["S-2", "with a customer"],
  ]);
  const back = await steps("backward");
  for (const step of [
    ["B-1", null],
    ["R-1", "back from a customer"],
    ["W-1", "seen already"],
  ])
    expect(back).toContainEqual(step);
  // The scale that went in at the build reached the customer through all of it.
  const scale = card.contents.find((own) => own.item.code === "SCL-E");
  const forward = await world.ok(routes.trace, {
    query: { item: scale?.item.id ?? 0, serial: scale?.serial ?? "" },
  });
  expect(forward.steps.filter(({ end }) => end === "with a customer")).toHaveLength(2);
  expect(await world.audit()).toEqual([]);
});

it("a returned unit goes into a rework as its inspection's outcome, and is to be inspected again once that is undone", async () => {
  const world = await demoWorld();
  const [item, customer] = [await world.idOf("EXT-2"), await firmId(world, "customer", "TARN")];
  const order = await orderOf(world, [["EXT-2", "1", "489.00"]]);
  await world.ok(routes.shipOrder, {
    params: { id: order.id },
    body: shipmentOf([leaving(order.orderLines[0], "1", { only: [{ item, codes: ["EX-0077"] }] })]),
  });
  const line = { item, serial: "EX-0077", quantity: "1", credit: "400.00" };
  const came = await world.ok(routes.newReturn, {
    body: { customer, day: TODAY, reason: "drum bent", lines: [line] },
  });
  const returnLine = { id: came.id, line: 1 };
  const body = { item, day: TODAY, units: [{ serial: "EX-0077", quantity: "1", returnLine }] };
  const { id } = await world.ok(routes.newRework, { body });
  const inspected = await world.ok(routes.return, { params: { id: came.id } });
  expect(inspected.inspections.map(({ outcome }) => outcome)).toEqual(["rework"]);
  const params = { id: came.id, inspection: inspected.inspections[0]?.id ?? 0 };
  expect((await world.call(routes.undoInspection, { params })).error?.code).toBe("inspection-reworked");
  await world.ok(routes.undoRework, { params: { id } });
  expect((await world.ok(routes.return, { params: { id: came.id } })).open).toBe(1);
  expect(await world.audit()).toEqual([]);
});
