import { routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { bareWorld, demoWorld, type World } from "../testing/world.ts";

/** A colleague, who changes what the first person has open. */
const colleague = async ({ ok }: World) => (await ok(routes.addPerson, { body: { name: "Jorun" } })).id;

const STALE = "Jorun changed this at 10:00, after you opened it.";

describe("two people at one document", () => {
  it("an order: the second change is refused, says who was first, and changes nothing", async () => {
    const world = await demoWorld();
    const { ok, call, idOf } = world;
    const jorun = await colleague(world);
    const { firms } = await ok(routes.firms, { query: { kind: "customer" } });
    const line = { item: await idOf("FEED-12"), quantity: "2" };
    const body = { customer: firms[0]?.id, lines: [line] };
    const order = await ok(routes.newOrder, { body });
    const params = { id: order.id };
    const lines = [...order.orderLines.map(({ id, item }) => ({ id, item: item.id, quantity: "2" })), line];
    await ok(routes.changeOrder, { params, body: { ...body, lines }, version: order.version, person: jorun });
    const late = await call(routes.changeOrder, {
      params,
      body: { ...body, note: "Ring the bell" },
      version: order.version,
    });
    expect([late.status, late.error.code, late.error.message]).toEqual([409, "stale", STALE]);
    const now = await ok(routes.order, { params });
    expect([now.note, now.orderLines.length, now.version]).toEqual(["", 2, order.version + 1]);
    // Seen and gone on from, it is recorded; and who says no version is not compared.
    await ok(routes.changeOrder, { params, body: { ...body, note: "Seen" }, version: now.version });
    await ok(routes.changeOrder, { params, body: { ...body, note: "By a script" } });
  });
  it("a parts list: the second one does not drop the first, whether it is a draft, locked since, or new", async () => {
    const world = await demoWorld();
    const { ok, call, idOf } = world;
    const jorun = await colleague(world);
    const params = { id: await idOf("FEED-12") };
    const { list } = await ok(routes.item, { params });
    if (!list) throw new Error("FEED-12 has a list");
    const { id: from, version } = list.revision;
    const lines = [{ part: "CAN-12", quantity: "8", unit: "pc", waste: "0" }];
    const body = { list: list.list, from, makes: "8", usual: "8", lines };
    const first = await ok(routes.saveList, { params, body, version, person: jorun });
    const late = await call(routes.saveList, { params, body: { ...body, makes: "9" }, version });
    expect([late.error.code, late.error.message]).toEqual(["stale", STALE]);
    await ok(routes.lockRevision, {
      params: { id: first.revision.id },
      body: { starts: "at once", startsOn: null, startsAfter: null, note: "" },
    });
    const afterLock = await call(routes.saveList, {
      params,
      body: { ...body, from: first.revision.id },
      version: first.revision.version,
    });
    expect(afterLock.error.code).toBe("stale");
    const fresh = { id: (await ok(routes.newItem, { body: NEW_PRODUCT })).id };
    const none = { from: null, makes: "1", usual: "1", lines };
    await ok(routes.saveList, { params: fresh, body: none, version: 0, person: jorun });
    expect((await call(routes.saveList, { params: fresh, body: none, version: 0 })).error.code).toBe("stale");
  });
  it("when an order is expected, a stock target and a recurring build", async () => {
    const world = await demoWorld();
    const { ok, call, idOf } = world;
    const jorun = await colleague(world);
    const refusal = async (change: Promise<{ error: { message: string } }>) => (await change).error.message;
    const { firms } = await ok(routes.firms, { query: { kind: "supplier" } });
    const ordered = await ok(routes.newPurchase, {
      body: { supplier: firms[0]?.id ?? 0, lines: [{ item: await idOf("CAN-12"), quantity: "5" }] },
    });
    const params = { id: ordered.id };
    const { orderLines, version } = await ok(routes.sendPurchase, { params });
    const expected = (day: string) => ({ lines: [{ line: orderLines[0]?.id ?? 0, expected: day }] });
    await ok(routes.changeExpected, { params, body: expected("2026-12-01"), version, person: jorun });
    expect(
      await refusal(call(routes.changeExpected, { params, body: expected("2026-12-02"), version })),
    ).toBe(STALE);

    const product = { id: await idOf("FRM-A") };
    const body = { product: product.id, target: "40", batch: "10" };
    const [target] = (await ok(routes.setStockTarget, { body })).targets;
    const first = { body: { ...body, target: "50" }, version: target?.version ?? 0 };
    await ok(routes.setStockTarget, { ...first, person: jorun });
    expect(await refusal(call(routes.setStockTarget, first))).toBe(STALE);

    const rule = { product: product.id, quantity: "12", weekdays: [1], starts: "2026-12-01", note: "" };
    const [build] = (await ok(routes.newRecurring, { body: rule })).recurring;
    if (!build) throw new Error("a recurring build was added");
    const change = { params: { id: build.id }, body: { ...rule, quantity: "24" }, version: build.version };
    await ok(routes.changeRecurring, { ...change, person: jorun });
    expect(await refusal(call(routes.changeRecurring, change))).toBe(STALE);
  });
  it("an item, its suppliers, a firm, a purchase order, a build and a kit alike", async () => {
    const world = await demoWorld();
    const { ok, call, idOf } = world;
    const jorun = await colleague(world);
    const item = await ok(routes.item, { params: { id: await idOf("CAN-12") } });
    const suppliers = item.suppliers.map((s) => ({ ...s, minimum: "24" }));
    const params = { id: item.id };
    await ok(routes.changeSuppliers, { params, body: { suppliers }, version: item.version, person: jorun });
    for (const attempt of [
      () => call(routes.changeSuppliers, { params, body: { suppliers }, version: item.version }),
      () =>
        call(routes.changeItem, { params, body: { ...item, price: item.ownPrice }, version: item.version }),
    ])
      expect((await attempt()).error.message).toBe(STALE);

    const { firms } = await ok(routes.firms, { query: { kind: "supplier" } });
    const firm = await ok(routes.firm, { params: { id: firms[0]?.id ?? 0 } });
    const changed = { ...firm, note: "", name: "Another name" };
    await ok(routes.changeFirm, {
      params: { id: firm.id },
      body: changed,
      version: firm.version,
      person: jorun,
    });
    const lateFirm = await call(routes.changeFirm, {
      params: { id: firm.id },
      body: firm,
      version: firm.version,
    });
    expect(lateFirm.error.message).toBe(STALE);

    const purchase = await ok(routes.newPurchase, {
      body: { supplier: firm.id, lines: [{ item: item.id, quantity: "5" }] },
    });
    await ok(routes.sendPurchase, { params: { id: purchase.id }, person: jorun });
    const latePurchase = await call(routes.changePurchase, {
      params: { id: purchase.id },
      body: { lines: [{ item: item.id, quantity: "6" }] },
      version: purchase.version,
    });
    expect(latePurchase.error.code).toBe("stale");

    const id = await world.queued("FEED-12", "4");
    const build = await ok(routes.build, { params: { id } });
    const plan = { quantity: "4", due: null, note: "first", list: build.list?.id ?? null };
    await ok(routes.changeBuild, { params: { id }, body: plan, version: build.version, person: jorun });
    const lateBuild = await call(routes.changeBuild, { params: { id }, body: plan, version: build.version });
    expect(lateBuild.error.message).toBe(STALE);

    const kit = await ok(routes.item, { params: { id: await idOf("KIT-CARE") } });
    const contents = (kit.kit?.contents ?? []).map(({ item: content, quantity }) => ({
      item: content.code,
      quantity,
      swap: "fixed",
      swaps: [],
      quantityMayChange: false,
      mayBeLeftOut: false,
    }));
    const body = { ...kit.kit, price: kit.ownPrice, contents };
    const version = kit.kit?.version ?? 0;
    await ok(routes.saveKit, { params: { id: kit.id }, body, version, person: jorun });
    expect((await call(routes.saveKit, { params: { id: kit.id }, body, version })).error.message).toBe(STALE);
  });
  it("a version that is no number is refused as such", async () => {
    const { app } = await bareWorld();
    const headers = { "yosegi-person": "1", "idempotency-key": "x", "yosegi-version": "first" };
    const answer = await app.inject({
      method: "PUT",
      url: "/api/orders/1",
      payload: { customer: 1, lines: [] },
      headers,
    });
    expect([answer.statusCode, answer.json().code]).toEqual([400, "invalid-input"]);
  });
});

const NEW_PRODUCT = { code: "NEW-1", name: "New", kind: "built", unit: "pc" };
