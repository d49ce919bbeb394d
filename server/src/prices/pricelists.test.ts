import { routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { demoWorld, fieldsOf, fileOf, type World } from "../testing/world.ts";

async function firmOf(world: World, code: string) {
  const { firms } = await world.ok(routes.firms, { query: { kind: "customer", search: code } });
  return world.ok(routes.firm, { params: { id: firms[0]?.id ?? 0 } });
}

/** The price of one line of an order as it is typed, where it is from, and what the line comes to. */
async function priced(
  world: World,
  customer: string | null,
  code: string,
  quantity: string,
  more: object = {},
) {
  const { lines } = await world.ok(routes.previewOrder, {
    body: {
      customer: customer && (await firmOf(world, customer)).id,
      lines: [{ item: await world.idOf(code), quantity, ...more }],
    },
  });
  const [line] = lines;
  return [line?.price?.price, line?.price?.of, line?.price?.from, line?.total];
}

describe("the price of a line", () => {
  it("is as typed, else the customer's list, their group's, the item's own; the largest step reached", async () => {
    const world = await demoWorld();
    // Millrow has a price from 24 of its own; its group, Shops, has them from 12 and from 60.
    expect(await priced(world, "MILL", "HON-4", "11")).toEqual(["6.90", "item", null, "75.90"]);
    expect(await priced(world, "MILL", "HON-4", "12")).toEqual(["6.50", "group", "12", "78.00"]);
    expect(await priced(world, "MILL", "HON-4", "24")).toEqual(["6.10", "customer", "24", "146.40"]);
    expect(await priced(world, "MILL", "HON-4", "60")).toEqual(["6.10", "customer", "24", "366.00"]);
    expect(await priced(world, "ASHG", "HON-4", "60")).toEqual(["6.20", "group", "60", "372.00"]);
    expect(await priced(world, "MILL", "HON-4", "60", { price: "5" })).toEqual([
      "5.00",
      "typed",
      null,
      "300.00",
    ]);
    // Typed once, it stays; the list's is offered beside it.
    const asked = await world.ok(routes.previewOrder, {
      body: {
        customer: (await firmOf(world, "MILL")).id,
        lines: [{ item: await world.idOf("HON-4"), quantity: "60", price: "6.50" }],
      },
    });
    expect(asked.lines[0]?.offer).toEqual({ price: "6.10", pricePer: "", of: "customer", from: "24" });
    expect(await priced(world, null, "HON-4", "60")).toEqual(["6.90", "item", null, "414.00"]);
  });

  it("of a kit comes from a list too, and a swap adds its difference", async () => {
    const world = await demoWorld();
    const item = await world.idOf("KIT-YARD");
    const club = await firmOf(world, "TARN");
    await world.ok(routes.newPriceList, { body: { customer: club.id, steps: [{ item, price: "229.00" }] } });
    expect(await priced(world, "TARN", "KIT-YARD", "1")).toEqual(["229.00", "customer", "0", "229.00"]);
    const { lines } = await world.ok(routes.previewOrder, { body: { lines: [{ item, quantity: "1" }] } });
    const contents = (lines[0]?.set?.contents ?? []).map(({ of, item: { id, code }, quantity }) => ({
      of,
      item: id,
      quantity: code === "HTL-J" ? "2" : quantity,
    }));
    const { error } = await world.call(routes.previewOrder, {
      body: { customer: club.id, lines: [{ item, quantity: "1", contents }] },
    });
    // The demo's hive tool is fixed; suits may be swapped.
    expect(fieldsOf(error)).toEqual(["lines.0.contents.4.quantity content-quantity-fixed"]);
    const kit = await world.idOf("KIT-TOOL");
    const follows = await world.call(routes.newPriceList, {
      body: { group: "Clubs too", steps: [{ item: kit, price: "40" }] },
    });
    expect(fieldsOf(follows.error)).toEqual(["steps.0.item price-follows"]);
  });
});

describe("a price list", () => {
  it("is of one customer or one group, made once, changed with its version, and removed", async () => {
    const world = await demoWorld();
    const item = await world.idOf("HTL-J");
    const steps = [{ item, price: "9.00" }];
    const customer = (await firmOf(world, "UPPE")).id;
    const refused = async (body: object) =>
      fieldsOf((await world.call(routes.newPriceList, { body: { steps, ...body } })).error);
    expect(await refused({})).toEqual(["customer customer-or-group"]);
    expect(await refused({ customer, group: "Clubs" })).toEqual(["customer customer-or-group"]);
    expect(await refused({ group: "shops" })).toEqual(["group price-list-there"]);
    expect(await refused({ customer, steps: [{ item, price: "9.005" }] })).toEqual([
      "steps.0.price currency-decimals",
    ]);
    expect(await refused({ customer, steps: [...steps, { item, from: "0.0", price: "8" }] })).toEqual([
      "steps.1 invalid-input",
    ]);
    expect(await refused({ customer, steps: [{ item, from: "1.5", price: "8" }] })).toEqual([
      "steps.0.from decimals",
    ]);
    expect(await refused({ customer, steps: [] })).toEqual(["steps invalid-input"]);
    const list = await world.ok(routes.newPriceList, { body: { customer, steps } });
    const params = { id: list.id };
    const changed = await world.ok(routes.changePriceList, {
      params,
      version: list.version,
      body: { steps: [{ item, from: "5", price: "8.50" }] },
    });
    expect(changed.steps.map(({ from, price }) => [from, price])).toEqual([["5", "8.50"]]);
    const stale = await world.call(routes.changePriceList, {
      params,
      version: list.version,
      body: { steps },
    });
    expect(stale.error.code).toBe("stale");
    expect(await priced(world, "UPPE", "HTL-J", "5")).toEqual(["8.50", "customer", "5", "42.50"]);
    expect((await firmOf(world, "UPPE")).priceLists).toEqual([{ id: list.id, of: "customer", prices: 1 }]);
    expect((await firmOf(world, "MILL")).priceLists.map((one) => one.of)).toEqual(["customer", "group"]);
    await world.ok(routes.removePriceList, { params });
    expect((await world.call(routes.priceList, { params })).error.code).toBe("not-found");
    expect(await priced(world, "UPPE", "HTL-J", "5")).toEqual(["9.60", "item", null, "48.00"]);
  });

  it("comes in by spreadsheet, changes what is there, and an undo puts it back", async () => {
    const world = await demoWorld();
    const bring = async (text: string) => {
      const body = { files: [fileOf("priceLists", text)], update: true, job: "test" };
      const { token, problems } = await world.ok(routes.checkImport, { body });
      if (problems.length === 0)
        await world.ok(routes.import, { body: { ...body, token, goodRowsOnly: false } });
      return problems.map(({ row, field, message }) => `${row} ${field} ${message}`);
    };
    expect(
      await bring("customer,group,item,from,price\nNOBODY,,HTL-J,,9\nTARN,Clubs,HTL-J,,9\n,Clubs,NONE,,9\n"),
    ).toEqual([
      "2 customer There is no customer NOBODY.",
      "3 customer Name a customer or a group of customers, one of the two.",
      expect.stringContaining("4 item"),
    ]);
    expect(
      await bring("customer,group,item,from,price\nTARN,,HTL-J,10,9.10\n,shops,HON-4,12,6.40\n"),
    ).toEqual([]);
    expect(await priced(world, "TARN", "HTL-J", "10")).toEqual(["9.10", "customer", "10", "91.00"]);
    expect(await priced(world, "ASHG", "HON-4", "12")).toEqual(["6.40", "group", "12", "76.80"]);
    const [run] = (await world.ok(routes.importRuns)).imports;
    await world.ok(routes.undoImport, { params: { id: run?.id ?? 0 } });
    expect(await priced(world, "TARN", "HTL-J", "10")).toEqual(["9.60", "item", null, "96.00"]);
    expect(await priced(world, "ASHG", "HON-4", "12")).toEqual(["6.50", "group", "12", "78.00"]);
    const { lists } = await world.ok(routes.priceLists, { query: {} });
    expect(lists.map(({ group, customer, prices }) => [group || customer?.code, prices])).toEqual([
      ["Clubs", 1],
      ["Shops", 3],
      ["MILL", 1],
    ]);
  });
});

it("a line keeps the tax rate it was sold at; an exempt customer pays none, and the tax is rounded once for each rate", async () => {
  const world = await demoWorld();
  const company = (await world.ok(routes.company, {})).company;
  if (!company) throw new Error("the demo is set up");
  const charge = (taxRate: string) => world.ok(routes.changeCompany, { body: { ...company, taxRate } });
  await charge("20");
  const feed = await world.ok(routes.item, { params: { id: await world.idOf("HON-4") } });
  await world.ok(routes.changeItem, {
    params: { id: feed.id },
    version: feed.version,
    body: { ...feed, price: "6.90", taxRate: "10" },
  });
  const club = await firmOf(world, "TARN");
  const lines = [
    { item: await world.idOf("HTL-J"), quantity: "1" },
    { item: feed.id, quantity: "3" },
  ];
  const order = await world.ok(routes.newOrder, { body: { customer: club.id, lines } });
  expect([order.total, order.taxes, order.gross]).toEqual([
    "30.30",
    [
      { rate: "20", net: "9.60", tax: "1.92" },
      { rate: "10", net: "20.70", tax: "2.07" },
    ],
    "34.29",
  ]);
  // The company's rate changes: what is ordered stays, a new line has the new one.
  await charge("25");
  const again = await world.ok(routes.changeOrder, {
    params: { id: order.id },
    version: order.version,
    body: {
      customer: club.id,
      lines: [
        { id: order.orderLines[0]?.id, ...lines[0] },
        { ...lines[0], quantity: "2" },
      ],
    },
  });
  expect(again.orderLines.map((line) => line.taxRate)).toEqual(["20", "25"]);
  const { version, supplies, orders, items, kind, ...firm } = club;
  await world.ok(routes.changeFirm, { params: { id: club.id }, version, body: { ...firm, taxExempt: true } });
  const exempt = await world.ok(routes.newOrder, { body: { customer: club.id, lines } });
  expect([exempt.taxes, exempt.gross]).toEqual([[{ rate: "0", net: "30.30", tax: "0.00" }], "30.30"]);
});
