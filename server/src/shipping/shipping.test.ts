import { type AnswerOf, routes } from "@yosegi/contract";
import { beforeEach, describe, expect, it } from "vitest";
import { leaving, orderOf, shipmentOf } from "../testing/ordering.ts";
import { demoWorld, fieldsOf, TODAY, type World } from "../testing/world.ts";

type Sheet = AnswerOf<typeof routes.order>;

let world: World;
beforeEach(async () => {
  world = await demoWorld();
});

const sheet = (id: number): Promise<Sheet> => world.ok(routes.order, { params: { id } });
const ship = (order: { id: number }, body: ReturnType<typeof shipmentOf>) =>
  world.ok(routes.shipOrder, { params: { id: order.id }, body });
const refused = async (order: { id: number }, body: ReturnType<typeof shipmentOf>) => {
  const { error } = await world.call(routes.shipOrder, { params: { id: order.id }, body });
  return error;
};
const onHand = async (code: string) =>
  (await world.ok(routes.lookUp, { body: { codes: [code] } })).items[0]?.onHand;

describe("a set shipped whole (docs/rules.md § 12)", () => {
  it("leaves stock at its contents' values, with the margin of the line shared over them", async () => {
    const order = await orderOf(world, [["KIT-YARD", "2"]]);
    const shipped = await ship(order, shipmentOf([leaving(order.orderLines[0], "1")]));
    expect(shipped).toMatchObject({
      number: "S-1",
      revenue: "239.00",
      cost: "214.6000",
      margin: "24.4000",
      marginPercent: "10.2",
    });
    const [line] = shipped.shipped;
    expect(line?.components.map((own) => [own.item.code, own.cost, own.margin, own.taken[0]?.bin])).toEqual([
      ["HIVE-N", "148.0000", "-4.9500", "Y6-A"],
      ["SUIT-M", "36.0000", "14.5900", "11-A"],
      ["GLV-M", "8.3000", "4.3500", "10-C"],
      ["SMK-S", "17.2000", "7.1400", "10-A"],
      ["HTL-J", "5.1000", "3.2700", "10-B"],
    ]);
    const part = await sheet(order.id);
    expect(part).toMatchObject({ stage: "part shipped", lines: 1, linesReady: 1 });
    expect(part.orderLines[0]).toMatchObject({
      quantity: "2",
      shipped: "1",
      open: "1",
      closed: "0",
      ready: "1",
    });
    expect(part.orderLines[0]?.takes[0]).toMatchObject({ open: "1", shipped: "1" });
    await ship(order, shipmentOf([leaving(order.orderLines[0])]));
    expect(await sheet(order.id)).toMatchObject({ stage: "shipped", linesReady: 0, promise: null });
    expect(await world.ok(routes.orderShipments, { params: { id: order.id } })).toMatchObject({
      revenue: "478.00",
      margin: "48.8000",
    });
    expect(await world.audit()).toEqual([]);
  });

  it("leaves single pieces where the person says so, at their price share; the last takes the rest", async () => {
    const order = await orderOf(world, [["KIT-YARD", "1"]]);
    const [line] = order.orderLines;
    const but = async (code: string) => {
      const gloves = await world.idOf(code);
      return (line?.takes ?? []).flatMap(({ item }) =>
        item.id === gloves ? [] : [{ item: item.id, quantity: "1" }],
      );
    };
    const first = await ship(order, shipmentOf([leaving(line, "0", { pieces: await but("GLV-M") })]));
    expect(first).toMatchObject({ revenue: "226.35", cost: "206.3000" });
    expect(first.shipped[0]?.units).toBe("0");
    expect((await sheet(order.id)).orderLines[0]).toMatchObject({ shipped: "0", open: "1", ready: "1" });
    const rest = await ship(order, shipmentOf([leaving(line, "1")]));
    expect(rest).toMatchObject({ revenue: "12.65", cost: "8.3000" });
    expect(rest.shipped[0]).toMatchObject({ units: "1", components: [{ quantity: "1" }] });
  });

  it("counts 2.5 L at 3.33 as 3.33 and then 5.00, from the lot that expires first and never from one that has", async () => {
    const order = await orderOf(world, [["SYR-72", "2.5", "3.33"]]);
    const [line] = order.orderLines;
    const first = await ship(order, shipmentOf([leaving(line, "1")]));
    expect(first.shipped[0]?.components[0]?.taken).toEqual([
      { store: "Yard", bin: "Y1-A", lot: "HS-114", serial: "", quantity: "1" },
    ]);
    const second = await ship(
      order,
      shipmentOf([leaving(line, null, { only: [{ item: await world.idOf("SYR-72"), codes: ["HS-118"] }] })]),
    );
    expect([first.revenue, second.revenue]).toEqual(["3.33", "5.00"]);
    expect(second.shipped[0]?.components[0]?.taken[0]?.lot).toBe("HS-118");
  });
});

describe("a shipment undone", () => {
  it("brings back what left with its value, and opens the order again", async () => {
    const before = await onHand("SMK-S");
    const order = await orderOf(world, [
      ["SMK-S", "3"],
      ["EXT-2", "1", "420.00"],
    ]);
    const shipped = await ship(order, shipmentOf(order.orderLines.map((line) => leaving(line))));
    expect(await onHand("SMK-S")).toBe("15");
    expect(shipped.shipped[1]?.components[0]?.taken[0]?.serial).toBe("EX-0077");
    const undone = await world.ok(routes.undoShipment, { params: { id: shipped.id }, body: {} });
    expect(undone.undone?.person).toBe("Ines");
    expect([await onHand("SMK-S"), await onHand("EXT-2")]).toEqual([before, "1"]);
    expect(await sheet(order.id)).toMatchObject({ stage: "open", linesReady: 2 });
    const again = await world.call(routes.undoShipment, { params: { id: shipped.id }, body: {} });
    expect(again.error.code).toBe("shipment-undone");
    expect(await world.ok(routes.orderShipments, { params: { id: order.id } })).toMatchObject({
      revenue: "0.00",
      cost: "0.0000",
    });
    expect(await world.audit()).toEqual([]);
    await ship(order, shipmentOf(order.orderLines.map((line) => leaving(line))));
    expect(await sheet(order.id)).toMatchObject({ stage: "shipped" });
  });
});

describe("what takes nothing from stock", () => {
  it("leaves with the last goods, unless the person says otherwise", async () => {
    const order = await orderOf(world, [
      ["SMK-S", "2"],
      ["LAB-B", "1.5", "40.00"],
    ]);
    const [goods, work] = order.orderLines;
    const first = await ship(order, shipmentOf([leaving(goods, "1")]));
    expect(first.shipped.map((line) => line.item.code)).toEqual(["SMK-S"]);
    const last = await ship(order, shipmentOf([leaving(goods, "1")]));
    expect(last.shipped.map((line) => [line.item.code, line.units, line.revenue, line.cost])).toEqual([
      ["SMK-S", "1", "27.90", "17.2000"],
      ["LAB-B", "1.5", "60.00", "48.0000"],
    ]);
    expect(await sheet(order.id)).toMatchObject({ stage: "shipped" });
    const other = await orderOf(world, [
      ["SMK-S", "1"],
      ["LAB-B", "1", "40.00"],
    ]);
    await ship(other, shipmentOf([leaving(other.orderLines[0]), leaving(other.orderLines[1], "0")]));
    expect((await sheet(other.id)).orderLines[1]).toMatchObject({ open: "1" });
    // Work alone leaves without a posting.
    await ship(other, shipmentOf([leaving(other.orderLines[1])]));
    expect(await sheet(other.id)).toMatchObject({ stage: "shipped" });
    expect(work?.takes).toEqual([]);
  });
});

describe("what is refused", () => {
  it("more than is open, than is there, or nothing; a price that is missing; a day to come", async () => {
    const order = await orderOf(world, [
      ["SMK-S", "20"],
      ["PIN-20", "1"],
    ]);
    const [smokers, pins] = order.orderLines;
    expect(fieldsOf(await refused(order, shipmentOf([leaving(smokers, "21")])))).toEqual([
      "lines.0.quantity ship-more-than-open",
    ]);
    const short = await refused(order, shipmentOf([leaving(smokers)]));
    expect(short.fields).toMatchObject([
      {
        field: "lines.0.quantity",
        message: "18 of 20 pc of SMK-S are in stock. Ship fewer, or count the bin.",
      },
    ]);
    expect(fieldsOf(await refused(order, shipmentOf([leaving(smokers, "1.5")])))).toEqual([
      "lines.0.quantity decimals",
    ]);
    expect(fieldsOf(await refused(order, shipmentOf([])))).toEqual(["lines ship-nothing"]);
    expect(fieldsOf(await refused(order, shipmentOf([leaving(pins)])))).toEqual([
      "lines.0.line ship-no-price",
    ]);
    expect(
      fieldsOf(await refused(order, shipmentOf([leaving(smokers, "1"), leaving(smokers, "1")]))),
    ).toEqual(["lines.1 invalid-input"]);
    expect(
      fieldsOf(await refused(order, shipmentOf([leaving(smokers, "1")], { day: "2027-01-01" }))),
    ).toEqual(["day day-future"]);
    expect(fieldsOf(await refused(order, shipmentOf([leaving(smokers, "1")], { parcels: 0 })))).toEqual([
      "parcels invalid-input",
    ]);
    const other = await world.idOf("FEED-12");
    const strange = { only: [{ item: other, codes: ["L-1"] }], pieces: [{ item: other, quantity: "1" }] };
    const notIn = await refused(order, shipmentOf([leaving(smokers, "1", strange)]));
    expect(notIn.fields).toMatchObject([
      { field: "lines.0.pieces.0.item", message: "This item is not in SMK-S." },
    ]);
  });

  it("a lot that has expired, and a serial that is elsewhere or for another order", async () => {
    const order = await orderOf(world, [
      ["SYR-72", "5", "3.00"],
      ["SCL-E", "2", "99.00"],
    ]);
    const [syrup, scales] = order.orderLines;
    const only = async (code: string, ...codes: string[]) => ({
      only: [{ item: await world.idOf(code), codes }],
    });
    const expired = await refused(order, shipmentOf([leaving(syrup, null, await only("SYR-72", "HS-109"))]));
    expect(fieldsOf(expired)).toEqual(["lines.0.only.0 lot-expired"]);
    const unknown = await refused(order, shipmentOf([leaving(syrup, null, await only("SYR-72", "HS-1"))]));
    expect(unknown.fields[0]?.message).toBe("HS-1 of SYR-72 is not in stock.");
    const few = await refused(order, shipmentOf([leaving(scales, null, await only("SCL-E", "SC-2042"))]));
    expect(fieldsOf(few)).toEqual(["lines.0.only.0 serial-count"]);
    await ship(order, shipmentOf([leaving(scales, "1", await only("SCL-E", "SC-2042"))]));
    const elsewhere = await refused(
      order,
      shipmentOf([leaving(scales, "1", await only("SCL-E", "SC-2042"))]),
    );
    expect(elsewhere.fields[0]?.message).toBe("SC-2042 of SCL-E is with a customer (S-1).");
  });

  it("what is in stock for others in their turn, unless the person takes it from them", async () => {
    const first = await orderOf(world, [["SMK-S", "16"]], "2026-11-25");
    const second = await orderOf(world, [["SMK-S", "4"]], "2026-11-30");
    const body = shipmentOf([leaving(second.orderLines[0])]);
    const stopped = await refused(second, body);
    expect(stopped.fields).toMatchObject([
      {
        field: "takeFromOthers",
        message: `2 pc of SMK-S are in stock for others: ${first.number}. Tick “Take it from them” to ship anyway.`,
      },
    ]);
    const preview = await world.ok(routes.previewShipment, { params: { id: second.id }, body });
    expect(preview.takesFrom).toMatchObject([{ quantity: "2", documents: [first.number] }]);
    await ship(second, { ...body, takeFromOthers: true });
    expect((await sheet(first.id)).orderLines[0]).toMatchObject({ ready: "14" });
  });

  it("a line that a colleague shipped meanwhile, an order that was changed, a customer on hold, an order that has ended", async () => {
    const order = await orderOf(world, [["SMK-S", "2"]]);
    const params = { id: order.id };
    const body = shipmentOf([leaving(order.orderLines[0])]);
    const [one, two] = await Promise.all([
      world.call(routes.shipOrder, { params, body, version: order.version }),
      world.call(routes.shipOrder, { params, body, version: order.version }),
    ]);
    expect([one.status, two.status].sort()).toEqual([200, 409]);
    expect((await refused(order, body)).code).toBe("order-ended");
    const { firms } = await world.ok(routes.firms, { query: { kind: "customer" } });
    const customer = await world.ok(routes.firm, { params: { id: firms[0]?.id ?? 0 } });
    const next = await orderOf(world, [["SMK-S", "1"]]);
    await world.ok(routes.changeFirm, {
      params: { id: customer.id },
      version: customer.version,
      body: { ...customer, onHold: true },
    });
    const again = shipmentOf([leaving(next.orderLines[0])]);
    expect(fieldsOf(await refused(next, again))).toEqual(["customer customer-on-hold"]);
    expect(await ship(next, { ...again, goOn: true })).toMatchObject({ wentOn: "on hold" });
  });
});

describe("the rest of an order", () => {
  it("is closed and opened again; an order of which a part left is not cancelled", async () => {
    const order = await orderOf(world, [
      ["SMK-S", "5"],
      ["KIT-TOOL", "2"],
    ]);
    const params = { id: order.id };
    await ship(order, shipmentOf([leaving(order.orderLines[0], "3")]));
    expect((await world.call(routes.cancelOrder, { params })).error.code).toBe("order-part-shipped");
    const closed = await world.ok(routes.closeRest, {
      params,
      body: { lines: [order.orderLines[0]?.id ?? 0] },
    });
    expect(closed.orderLines[0]).toMatchObject({ shipped: "3", closed: "2", open: "0" });
    expect(await world.ok(routes.closeRest, { params, body: { lines: [] } })).toMatchObject({
      stage: "shipped",
    });
    expect(await world.audit()).toEqual([]);
    const open = await world.ok(routes.reopenRest, { params });
    expect(open.orderLines.map((line) => line.open)).toEqual(["2", "2"]);
    expect(open.stage).toBe("part shipped");
    expect((await world.call(routes.reopenRest, { params })).error.code).toBe("nothing-closed");
  });

  it("with nothing left of it is a cancelled order", async () => {
    const order = await orderOf(world, [["SMK-S", "1"]]);
    expect(await world.ok(routes.closeRest, { params: { id: order.id }, body: { lines: [] } })).toMatchObject(
      { stage: "cancelled" },
    );
  });
});

describe("an order changed after a part of it left", () => {
  const bodyOf = (order: Sheet, change: (line: Sheet["orderLines"][number]) => object) => ({
    customer: order.customer.id,
    lines: order.orderLines.map((line) => ({
      id: line.id,
      item: line.item.id,
      quantity: line.quantity,
      price: line.price,
      ...change(line),
    })),
  });
  const change = (order: Sheet, of: (line: Sheet["orderLines"][number]) => object) =>
    world.call(routes.changeOrder, { params: { id: order.id }, body: bodyOf(order, of) });

  it("keeps what left: no smaller quantity, no other item or customer; the price counts for all of it", async () => {
    const order = await orderOf(world, [["SMK-S", "5"]]);
    await ship(order, shipmentOf([leaving(order.orderLines[0], "3")]));
    const tool = await world.idOf("HTL-J");
    expect(fieldsOf((await change(order, () => ({ quantity: "2" }))).error)).toEqual([
      "lines.0.quantity quantity-left",
    ]);
    expect(fieldsOf((await change(order, () => ({ item: tool }))).error)).toEqual(["lines.0.item line-left"]);
    const changed = await world.ok(routes.changeOrder, {
      params: { id: order.id },
      body: bodyOf(order, () => ({ quantity: "4", price: "30.00" })),
    });
    expect(changed.orderLines[0]).toMatchObject({ open: "1", shipped: "3" });
    // 4 at 30.00 are 120.00, of which 83.70 were counted.
    expect(await ship(order, shipmentOf([leaving(order.orderLines[0])]))).toMatchObject({ revenue: "36.30" });
    expect(await world.audit()).toEqual([]);
  });

  it("splits a line whose next sets have other contents; those that left stay as they were", async () => {
    const order = await orderOf(world, [["KIT-YARD", "3"]]);
    const [line] = order.orderLines;
    await ship(order, shipmentOf([leaving(line, "1")]));
    const large = await world.idOf("SUIT-L");
    const contents = (line?.set?.contents ?? []).map(({ of, item, quantity }) => ({
      of,
      item: item.code === "SUIT-M" ? large : item.id,
      quantity,
    }));
    const changed = await world.ok(routes.changeOrder, {
      params: { id: order.id },
      body: bodyOf(order, () => ({ contents })),
    });
    expect(
      changed.orderLines.map((own) => [own.quantity, own.shipped, own.open, own.takes[1]?.item.code]),
    ).toEqual([
      ["1", "1", "0", "SUIT-M"],
      ["2", "0", "2", "SUIT-L"],
    ]);
    expect(await world.audit()).toEqual([]);
  });

  it("refuses other contents while single pieces of a set left", async () => {
    const order = await orderOf(world, [["KIT-YARD", "2"]]);
    const [line] = order.orderLines;
    const hive = line?.takes[0]?.item.id ?? 0;
    await ship(order, shipmentOf([leaving(line, "0", { pieces: [{ item: hive, quantity: "1" }] })]));
    const contents = (line?.set?.contents ?? []).map(({ of, item, quantity }) => ({
      of,
      item: item.id,
      quantity,
    }));
    const large = await world.idOf("SUIT-L");
    const swapped = contents.map((own, i) => (i === 1 ? { ...own, item: large } : own));
    expect(fieldsOf((await change(order, () => ({ contents: swapped }))).error)).toEqual([
      "lines.0.item set-in-pieces",
    ]);
    expect((await change(order, () => ({ contents }))).status).toBe(200);
  });
});

it("finds a shipment by its number, and lists the latest first", async () => {
  const order = await orderOf(world, [["SMK-S", "2"]]);
  await ship(
    order,
    shipmentOf([leaving(order.orderLines[0], "1")], { parcels: 2, weight: "3.25", note: "By hand" }),
  );
  await ship(order, shipmentOf([leaving(order.orderLines[0])]));
  const { shipments, total } = await world.ok(routes.shipments, {});
  expect(shipments.map(({ number, parcels, weight }) => [number, parcels, weight])).toEqual([
    ["S-2", null, null],
    ["S-1", 2, "3.25"],
  ]);
  expect(total).toBe(2);
  const { hits } = await world.ok(routes.find, { query: { text: "s-1" } });
  expect(hits[0]).toMatchObject({ kind: "shipment", text: "S-1", id: shipments[1]?.id });
  expect(TODAY).toBe(shipments[0]?.day);
});

it("lists what can leave complete today, and why the rest can't", async () => {
  const whole = await orderOf(
    world,
    [
      ["SMK-S", "3"],
      ["KIT-CARE", "2"],
    ],
    "2026-11-25",
  );
  const part = await orderOf(
    world,
    [
      ["SMK-S", "1"],
      ["HIVE-N", "40"],
    ],
    "2026-11-24",
  );
  const unpriced = await orderOf(world, [["PIN-20", "1"]]);
  const { ready, waiting } = await world.ok(routes.readyToShip, {});
  expect(
    ready.map(({ number, leaves }) => [
      number,
      leaves.map(({ item, quantity }) => `${quantity} ${item.code}`),
    ]),
  ).toEqual([[whole.number, ["3 SMK-S", "2 KIT-CARE"]]]);
  expect(waiting.map(({ number, why, short, readyInPart }) => [number, why, short, readyInPart])).toEqual([
    [part.number, "short", 1, true],
    [unpriced.number, "price missing", 0, true],
  ]);
});
