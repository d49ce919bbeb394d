import { type FinishBody, PLAIN_BUILD, PLAIN_FINISH, routes } from "@yosegi/contract";
import { beforeEach, describe, expect, it } from "vitest";
import { leaving, orderOf, shipmentOf } from "../testing/ordering.ts";
import { demoWorld, fieldsOf, TODAY, type World } from "../testing/world.ts";

let world: World;
beforeEach(async () => {
  world = await demoWorld();
});

const sheet = (id: number) => world.ok(routes.order, { params: { id } });
const finish = (build: number, good: string, change: Partial<FinishBody> = {}) => ({
  ...PLAIN_FINISH,
  build,
  good,
  day: TODAY,
  store: "Front store",
  ...change,
});

/** An order for so many of a product, with a draft build of what is missing that is for it. */
async function orderWithBuild(code: string, quantity: string, price?: string) {
  const order = await orderOf(world, [
    [code, quantity, ...(price === undefined ? [] : [price])] as [string, string],
  ]);
  const { builds } = await world.ok(routes.buildForOrder, { params: { id: order.id }, body: { lines: [] } });
  return { order, build: builds[0]?.id ?? 0, number: builds[0]?.number ?? "" };
}

describe("a build finished when its order is shipped (docs/rules.md § 12)", () => {
  it("is queued, finished and shipped in one step, and undone with it", async () => {
    const { order, build } = await orderWithBuild("FRM-A", "300", "4.90");
    const [line] = order.orderLines;
    const params = { id: order.id };
    const body = shipmentOf([leaving(line)], { finishes: [finish(build, "34")] });
    const preview = await world.ok(routes.previewShipment, { params, body });
    expect(preview).toMatchObject({ rest: false, cost: null, takesFrom: [] });
    expect(preview.lines[0]?.components[0]).toMatchObject({ short: "0" });
    const shipped = await world.ok(routes.shipOrder, { params, body });
    expect(shipped.finished).toMatchObject([{ id: build }]);
    expect(await world.ok(routes.build, { params: { id: build } })).toMatchObject({
      stage: "finished",
      good: "34",
    });
    expect(await sheet(order.id)).toMatchObject({ stage: "shipped" });
    expect(await world.audit()).toEqual([]);
    const undone = await world.ok(routes.undoShipment, {
      params: { id: shipped.id },
      body: { finishes: true },
    });
    expect(undone.finished).toEqual([]);
    expect(await world.ok(routes.build, { params: { id: build } })).toMatchObject({
      stage: "queued",
      good: "0",
    });
    expect((await sheet(order.id)).orderLines[0]).toMatchObject({ open: "300", ready: "266" });
    expect(await world.audit()).toEqual([]);
  });

  it("is refused whole for want of parts, and done once they are counted in the same step", async () => {
    const { order, build, number } = await orderWithBuild("FEED-12", "40", "31.00");
    const [line] = order.orderLines;
    const params = { id: order.id };
    const wanted = finish(build, "40", { lot: "AF-1" });
    const refused = await world.call(routes.shipOrder, {
      params,
      body: shipmentOf([leaving(line)], { finishes: [wanted] }),
    });
    expect(refused.error.fields).toMatchObject([{ field: "finishes.0", code: "finish-short" }]);
    expect(refused.error.fields[0]?.message).toContain("LBL-F 9 pc short");
    // Both or neither: the draft is a draft still.
    expect(await world.ok(routes.build, { params: { id: build } })).toMatchObject({ number, stage: "draft" });
    const counts = [];
    for (const [code, there, store, bin, lot] of [
      ["LBL-F", "60", "Front store", "06-A", ""],
      ["SYR-72", "600", "Yard", "Y1-A", "HS-118"],
    ] as const)
      counts.push({
        item: await world.idOf(code),
        there,
        store,
        bin,
        newBin: false,
        lot,
        serial: "",
        reason: "Behind the rack",
        cost: null,
      });
    const shipped = await world.ok(routes.shipOrder, {
      params,
      body: shipmentOf([leaving(line)], { finishes: [{ ...wanted, counts }] }),
    });
    expect(shipped.shipped[0]?.components[0]?.taken).toMatchObject([{ lot: "AF-1", quantity: "40" }]);
    expect(await world.audit()).toEqual([]);
  });

  it("asks for serial numbers, and ships just those that were finished for it", async () => {
    const { order, build } = await orderWithBuild("HIVE-C", "1", "310.00");
    const params = { id: order.id };
    const none = await world.call(routes.shipOrder, {
      params,
      body: shipmentOf([leaving(order.orderLines[0])], { finishes: [finish(build, "1", { serials: [""] })] }),
    });
    expect(fieldsOf(none.error)[0]).toMatch(/^finishes\.0\.serials/);
    const shipped = await world.ok(routes.shipOrder, {
      params,
      body: shipmentOf([leaving(order.orderLines[0])], {
        finishes: [finish(build, "1", { serials: ["H-0301"] })],
      }),
    });
    expect(shipped.shipped[0]?.components[0]?.taken).toMatchObject([{ serial: "H-0301" }]);
  });

  it("is not undone with its shipment where more was finished since, and never for another order", async () => {
    const { order, build } = await orderWithBuild("FRM-A", "300", "4.90");
    const params = { id: order.id };
    const shipped = await world.ok(routes.shipOrder, {
      params,
      body: shipmentOf([leaving(order.orderLines[0], "280")], { finishes: [finish(build, "14")] }),
    });
    await world.ok(routes.finishBuild, { params: { id: build }, body: finish(build, "10") });
    const refused = await world.call(routes.undoShipment, {
      params: { id: shipped.id },
      body: { finishes: true },
    });
    expect(refused.error.code).toBe("finished-since");
    expect(await sheet(order.id)).toMatchObject({ stage: "part shipped" });
    const other = await world.ok(routes.newBuild, {
      body: { ...PLAIN_BUILD, product: await world.idOf("FRM-A"), quantity: "5" },
    });
    const wrong = await world.call(routes.shipOrder, {
      params,
      body: shipmentOf([leaving(order.orderLines[0], "5")], { finishes: [finish(other.id, "5")] }),
    });
    expect(fieldsOf(wrong.error)).toEqual(["finishes.0.build build-not-for"]);
  });

  it("is said of an item, and otherwise of a line", async () => {
    const product = await world.ok(routes.item, { params: { id: await world.idOf("FRM-A") } });
    const order = await orderOf(world, [["FRM-A", "300", "4.90"]]);
    expect(order.orderLines[0]).toMatchObject({
      finishWhenShipped: null,
      takes: [{ finishWhenShipped: false }],
    });
    await world.ok(routes.changeItem, {
      params: { id: product.id },
      body: { ...product, price: null, finishWhenShipped: true },
    });
    expect((await sheet(order.id)).orderLines[0]?.takes[0]?.finishWhenShipped).toBe(true);
    const body = {
      customer: order.customer.id,
      lines: order.orderLines.map((line) => ({
        id: line.id,
        item: line.item.id,
        quantity: line.quantity,
        price: line.price,
        finishWhenShipped: false,
      })),
    };
    const changed = await world.ok(routes.changeOrder, { params: { id: order.id }, body });
    expect(changed.orderLines[0]).toMatchObject({
      finishWhenShipped: false,
      takes: [{ finishWhenShipped: false }],
    });
  });
});
