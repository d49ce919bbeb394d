import { routes } from "@yosegi/contract";
import { expect, it } from "vitest";
import { demoWorld, fieldsOf, type World } from "../testing/world.ts";

/** A customer with these terms, by id. */
async function customerWith(
  world: World,
  terms: { note?: string; onHold?: boolean; creditLimit?: string | null },
) {
  const { firms } = await world.ok(routes.firms, { query: { kind: "customer" } });
  const id = firms[0]?.id ?? 0;
  const { version, supplies, orders, items, kind, ...firm } = await world.ok(routes.firm, { params: { id } });
  await world.ok(routes.changeFirm, { params: { id }, version, body: { ...firm, ...terms } });
  return id;
}

const bodyOf = async (world: World, customer: number, quantity: string) => ({
  customer,
  lines: [{ item: await world.idOf("SMK-S"), quantity }],
});

it("takes no order of a customer on hold, but by going on anyway, and records who did", async () => {
  const world = await demoWorld();
  const customer = await customerWith(world, { onHold: true, note: "Pays late." });
  const body = await bodyOf(world, customer, "1");
  const preview = await world.ok(routes.previewOrder, { body: { ...body, lines: [] } });
  expect(preview.customer).toMatchObject({ note: "Pays late.", onHold: true, stop: "on hold" });
  const refused = await world.call(routes.newOrder, { body });
  expect(refused.error.fields).toMatchObject([
    {
      field: "customer",
      code: "customer-on-hold",
      message: "Ashgrove Farm Shop is on hold. Pays late. Tick “Go on anyway” to continue.",
    },
  ]);
  const order = await world.ok(routes.newOrder, { body: { ...body, goOn: true } });
  expect(order.history.map(({ what, person }) => [what, person])).toEqual([
    ["created", "Ines"],
    ["taken on hold", "Ines"],
  ]);
  // What somebody went on with once is settled.
  const [line] = order.orderLines;
  const more = { ...body, lines: [{ id: line?.id, item: line?.item.id, quantity: "2" }] };
  const again = await world.ok(routes.previewOrder, { body: { ...more, order: order.id } });
  expect(again.customer).toMatchObject({ onHold: true, stop: null });
  await world.ok(routes.changeOrder, { params: { id: order.id }, body: more });
});

it("counts open orders against the credit limit, to the last cent, and lets smaller changes through", async () => {
  const world = await demoWorld();
  const customer = await customerWith(world, { creditLimit: "83.70" });
  const first = await world.ok(routes.newOrder, { body: await bodyOf(world, customer, "2") });
  const preview = await world.ok(routes.previewOrder, { body: await bodyOf(world, customer, "1") });
  expect(preview.customer).toMatchObject({ used: "55.80", creditLimit: "83.70", stop: null });
  const over = await world.call(routes.newOrder, { body: await bodyOf(world, customer, "2") });
  expect(over.error.fields[0]?.message).toBe(
    "Open orders of Ashgrove Farm Shop would come to 111.60 EUR, over the credit limit of 83.70 EUR. Tick “Go on anyway” to continue.",
  );
  const id = first.orderLines[0]?.id;
  const change = async (quantity: string) => {
    const [line] = (await bodyOf(world, customer, quantity)).lines;
    const body = { customer, lines: [{ ...line, id }] };
    return world.call(routes.changeOrder, { params: { id: first.id }, body });
  };
  expect(fieldsOf((await change("4")).error)).toEqual(["customer credit-exceeded"]);
  await customerWith(world, { creditLimit: "10.00" });
  expect((await change("1")).status).toBe(200);
  await world.ok(routes.cancelOrder, { params: { id: first.id } });
  expect((await world.call(routes.newOrder, { body: await bodyOf(world, customer, "1") })).status).toBe(409);
});

it("measures credit with tax, as the customer owes it", async () => {
  const world = await demoWorld();
  const customer = await customerWith(world, { creditLimit: "60.00" });
  const body = await bodyOf(world, customer, "2");
  // Two smokers at 27.90 are 55.80, and 66.96 with tax.
  const stopped = async () => (await world.ok(routes.previewOrder, { body })).customer?.stop ?? "taken";
  expect(await stopped()).toBe("taken");
  const { company } = await world.ok(routes.company, {});
  await world.ok(routes.changeCompany, { body: { ...company, taxRate: "20" } });
  expect(await stopped()).toBe("over the credit limit");
  const refused = await world.call(routes.newOrder, { body });
  expect(refused.error.fields[0]?.message).toContain("66.96 EUR");
  const order = await world.ok(routes.newOrder, { body: { ...body, goOn: true } });
  const { customer: next } = await world.ok(routes.previewOrder, { body });
  expect([order.gross, next?.used]).toEqual(["66.96", "66.96"]);
});
