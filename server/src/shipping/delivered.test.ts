import { PLAIN_ORDER_LINE, routes } from "@yosegi/contract";
import { beforeEach, describe, expect, it } from "vitest";
import { leaving, shipmentOf } from "../testing/ordering.ts";
import { demoWorld, fieldsOf, TODAY, type World } from "../testing/world.ts";

let world: World;
beforeEach(async () => {
  world = await demoWorld();
});

const sheet = (id: number) => world.ok(routes.order, { params: { id } });
const stockOf = async (code: string) =>
  (await world.ok(routes.lookUp, { body: { codes: [code] } })).items.map((item) => [
    item?.onHand,
    item?.free,
    item?.currentCost,
  ]);

/** An order of smokers that the supplier delivers, and of hive tools from stock. */
async function directOrder() {
  const { firms } = await world.ok(routes.firms, { query: { kind: "customer" } });
  const line = async (code: string, quantity: string, bySupplier: boolean) => ({
    ...PLAIN_ORDER_LINE,
    item: await world.idOf(code),
    quantity,
    bySupplier,
  });
  return world.ok(routes.newOrder, {
    body: {
      customer: firms[0]?.id ?? 0,
      due: "2026-12-20",
      address: "Gate 3, Mill Lane 7",
      lines: [await line("SMK-S", "30", true), await line("HTL-J", "2", false)],
    },
  });
}

const ordered = async (order: { id: number }) =>
  (await world.ok(routes.deliverBySupplier, { params: { id: order.id } })).purchases;

describe("a line that its supplier delivers straight to the customer", () => {
  it("reserves nothing, is ordered with the address, and never is on its way to stock", async () => {
    const before = await stockOf("SMK-S");
    const order = await directOrder();
    expect(await stockOf("SMK-S")).toEqual(before);
    expect(order.orderLines[0]?.takes[0]).toMatchObject({ open: "30", ready: "0", missing: "30" });
    const [purchase, ...others] = await ordered(order);
    expect(others).toEqual([]);
    expect(await ordered(order)).toEqual([]);
    const draft = await world.ok(routes.purchase, { params: { id: purchase?.id ?? 0 } });
    expect(draft.deliverTo).toMatchObject({ order: { id: order.id, number: order.number } });
    expect(draft.deliverTo?.address).toContain("Gate 3, Mill Lane 7");
    expect((await sheet(order.id)).orderLines[0]?.takes[0]).toMatchObject({ planned: "30", missing: "30" });
    await world.ok(routes.sendPurchase, { params: { id: draft.id } });
    const waiting = await sheet(order.id);
    expect(waiting.orderLines[0]?.takes[0]).toMatchObject({ coming: "30", missing: "0" });
    // 12 days after it was ordered.
    expect([waiting.orderLines[0]?.promise?.day, waiting.promise?.day]).toEqual(["2026-12-05", "2026-12-05"]);
    const { items } = await world.ok(routes.lookUp, { body: { codes: ["SMK-S"] } });
    const check = await world.check(await world.idOf("HIVE-N"), "1");
    expect(check.demand.makesNow).not.toBe("0");
    expect(items[0]?.free).toBe(before[0]?.[1]);
    // Another need of the same supplier goes onto a draft of its own.
    const tools = { item: await world.idOf("HTL-J"), quantity: "5" };
    const { purchases } = await world.ok(routes.buyNeeds, { body: { lines: [tools] } });
    expect(purchases[0]?.id).not.toBe(draft.id);
  });

  it("is received and shipped by one confirmation, at what it cost, and undone with one press", async () => {
    const before = await stockOf("SMK-S");
    const order = await directOrder();
    const [purchase] = await ordered(order);
    const params = { id: purchase?.id ?? 0 };
    const { orderLines } = await world.ok(routes.sendPurchase, { params });
    const line = orderLines[0]?.id ?? 0;
    const body = { day: TODAY, lines: [{ line, quantity: "12", price: "19.00" }] };
    expect((await world.call(routes.receivePurchase, { params, body })).error.code).toBe("direct-receipt");
    const shipped = await world.ok(routes.confirmDelivery, { params, body });
    // 12 at 27.90, at 19.00 each, whatever those in stock cost.
    expect(shipped).toMatchObject({ revenue: "334.80", cost: "228.0000", margin: "106.8000" });
    expect(await stockOf("SMK-S")).toEqual(before);
    expect(await sheet(order.id)).toMatchObject({ stage: "part shipped" });
    expect((await sheet(order.id)).orderLines[0]).toMatchObject({ shipped: "12", open: "18" });
    expect(await world.audit()).toEqual([]);
    const { receipts } = await world.ok(routes.purchase, { params });
    const alone = await world.call(routes.undoReceipt, { params: { id: receipts[0]?.id ?? 0 } });
    expect(alone.error.code).toBe("direct-undo");
    await world.ok(routes.undoShipment, { params: { id: shipped.id }, body: {} });
    expect(await world.ok(routes.purchase, { params })).toMatchObject({ stage: "sent" });
    expect((await sheet(order.id)).orderLines[0]).toMatchObject({ shipped: "0", open: "30" });
    expect(await stockOf("SMK-S")).toEqual(before);
    expect(await world.audit()).toEqual([]);
  });

  it("is not shipped from stock, not given up while it is on order, and only what is bought", async () => {
    const order = await directOrder();
    const params = { id: order.id };
    const own = await world.call(routes.shipOrder, {
      params,
      body: shipmentOf([leaving(order.orderLines[0])]),
    });
    expect(fieldsOf(own.error)).toEqual(["lines.0.quantity line-by-supplier"]);
    const [purchase] = await ordered(order);
    expect((await world.call(routes.cancelOrder, { params })).error.code).toBe("line-at-supplier");
    expect((await world.call(routes.closeRest, { params, body: { lines: [] } })).error.code).toBe(
      "line-at-supplier",
    );
    const lines = order.orderLines.map(({ id, item, quantity }) => ({ id, item: item.id, quantity }));
    const body = { customer: order.customer.id, lines };
    expect((await world.call(routes.changeOrder, { params, body })).error.code).toBe("line-at-supplier");
    const hive = { item: await world.idOf("HIVE-N"), quantity: "1", bySupplier: true };
    const built = await world.call(routes.newOrder, { body: { customer: order.customer.id, lines: [hive] } });
    expect(fieldsOf(built.error)).toEqual(["lines.0.bySupplier not-by-supplier"]);
    await world.ok(routes.cancelPurchase, { params: { id: purchase?.id ?? 0 } });
    expect((await world.call(routes.cancelOrder, { params })).status).toBe(200);
  });

  it("ships no more than is open, and the rest of the order leaves from stock", async () => {
    const order = await directOrder();
    const [purchase] = await ordered(order);
    const params = { id: purchase?.id ?? 0 };
    const { orderLines } = await world.ok(routes.sendPurchase, { params });
    const line = orderLines[0]?.id ?? 0;
    const over = await world.call(routes.confirmDelivery, {
      params,
      body: { day: TODAY, more: true, lines: [{ line, quantity: "31" }] },
    });
    expect(over.error.fields[0]?.code).toBe("ship-more-than-open");
    await world.ok(routes.confirmDelivery, {
      params,
      body: { day: TODAY, lines: [{ line, quantity: "30" }] },
    });
    await world.ok(routes.shipOrder, {
      params: { id: order.id },
      body: shipmentOf([leaving(order.orderLines[1])]),
    });
    expect(await sheet(order.id)).toMatchObject({ stage: "shipped" });
    expect(await world.audit()).toEqual([]);
  });
});
