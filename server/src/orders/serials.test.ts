import { routes } from "@yosegi/contract";
import { expect, it } from "vitest";
import { demoWorld, fieldsOf, TODAY } from "../testing/world.ts";

it("a unit with a price of its own is offered at it, and asked for by one open order", async () => {
  const world = await demoWorld();
  const item = await world.idOf("SCL-E");
  const { firms } = await world.ok(routes.firms, { query: { kind: "customer" } });
  const customer = firms[0]?.id ?? 0;
  const sheet = await world.ok(routes.item, { params: { id: item } });
  const [first = "", second = ""] = sheet.stockByBin.map((spot) => spot.serial);
  const setPrice = (serial: string, price: string | null) =>
    world.call(routes.setSerialPrice, { params: { id: item, serial }, body: { price } });
  expect((await setPrice("NONE-1", "5")).error.code).toBe("not-found");
  expect(fieldsOf((await setPrice(first, "49.995")).error)).toEqual(["price currency-decimals"]);
  await setPrice(first, "49.50");
  expect((await world.ok(routes.item, { params: { id: item } })).stockByBin[0]?.price).toBe("49.50");

  const body = (serial: string, more: object = {}) => ({
    customer,
    lines: [{ item, quantity: "1", serial, ...more }],
  });
  const preview = async (serial: string, order: number | null = null) =>
    (await world.ok(routes.previewOrder, { body: { ...body(serial), order } })).lines[0];
  expect((await preview(""))?.serials).toEqual([{ serial: first, price: "49.50" }]);
  expect((await preview(first))?.price).toEqual({ price: "49.50", pricePer: "", of: "serial", from: null });
  // One without a price of its own costs what the item does.
  expect((await preview(second))?.price?.of).toBe((await preview(""))?.price?.of);

  const refused = async (asked: object) =>
    fieldsOf((await world.call(routes.newOrder, { body: asked })).error);
  expect(await refused(body("NONE-1"))).toEqual(["lines.0.serial serial-not-in-stock"]);
  expect(await refused(body(first, { quantity: "2" }))).toEqual(["lines.0.quantity serial-one"]);
  expect(await refused({ customer, lines: [...body(first).lines, ...body(first).lines] })).toEqual([
    "lines.1.serial serial-twice",
  ]);
  const tool = await world.idOf("HTL-J");
  expect(await refused({ customer, lines: [{ item: tool, quantity: "1", serial: "X" }] })).toEqual([
    "lines.0.serial serial-not-tracked",
  ]);
  const order = await world.ok(routes.newOrder, { body: body(first) });
  expect(order.orderLines[0]).toMatchObject({ serial: first, price: "49.50" });
  const other = await world.call(routes.newOrder, { body: body(first) });
  expect(other.error.fields[0]?.message).toBe(`${order.number} asks for serial ${first}.`);
  expect((await preview(""))?.serials).toEqual([]);
  // Saved again, and after it was counted away, the line keeps the number.
  const spot = sheet.stockByBin[0];
  await world.ok(routes.count, {
    body: { item, store: spot?.store, bin: spot?.bin, serial: first, there: "0", reason: "Lost", day: TODAY },
  });
  const again = await world.ok(routes.changeOrder, {
    params: { id: order.id },
    version: order.version,
    body: body(first, { id: order.orderLines[0]?.id }),
  });
  expect(again.orderLines[0]?.serial).toBe(first);
  await setPrice(first, null);
  expect((await preview(""))?.serials).toEqual([]);
  expect(await world.audit()).toEqual([]);
});
