import { routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import type { World } from "../testing/open.ts";
import { demoWorld, fieldsOf } from "../testing/world.ts";

const content = (item: string, quantity = "1", more: object = {}) => ({
  item,
  quantity,
  swap: "fixed",
  swaps: [],
  quantityMayChange: false,
  mayBeLeftOut: false,
  ...more,
});

const body = (contents: object[], more: object = {}) => ({
  contentsShown: true,
  mayBeAddedTo: false,
  priceRule: "own",
  discount: "0",
  price: "99.00",
  contents,
  ...more,
});

const save = async (world: World, code: string, kit: object) =>
  world.call(routes.saveKit, { params: { id: await world.idOf(code) }, body: kit });

const sheet = async (world: World, code: string) =>
  world.ok(routes.item, { params: { id: await world.idOf(code) } });

describe("a kit", () => {
  it("shares its price over its contents by list price, to the cent (docs/rules.md § 7)", async () => {
    const world = await demoWorld();
    const { kit } = await sheet(world, "KIT-YARD");
    expect(kit?.contents.map((c) => [c.item.code, c.share])).toEqual([
      ["HIVE-N", "143.05"],
      ["SUIT-M", "50.59"],
      ["GLV-M", "12.65"],
      ["SMK-S", "24.34"],
      ["HTL-J", "8.37"],
    ]);
    expect([kit?.sets, kit?.contents.filter((c) => c.limiting).map((c) => c.item.code)]).toEqual([
      "2",
      ["HIVE-N"],
    ]);
  });
  it("shares by cost where nothing in it has a list price", async () => {
    const world = await demoWorld();
    const { kit, price } = await sheet(world, "KIT-CARE");
    // 4 × 2.90, 3.40, 0.60 and 0.04 are 15.64 in all
    expect([price, kit?.contents.map((c) => c.share)]).toEqual(["19.90", ["14.76", "4.33", "0.76", "0.05"]]);
  });
  it("follows its contents where its price is their sum less a percentage", async () => {
    const world = await demoWorld();
    const tools = await sheet(world, "KIT-TOOL");
    // 27.90 + 9.60 + 14.50 = 52.00, less a tenth
    expect([tools.price, tools.ownPrice, tools.unitCost]).toEqual(["46.80", null, "30.6000"]);
    await save(
      world,
      "KIT-TOOL",
      body([content("SMK-S", "2")], { priceRule: "sum", discount: "12.5", price: null }),
    );
    expect((await sheet(world, "KIT-TOOL")).price).toBe("48.83");
  });
  it("sees at once what is free of its contents", async () => {
    const world = await demoWorld();
    const sets = async () => (await sheet(world, "KIT-YARD")).free;
    expect(await sets()).toBe("2");
    await world.queued("HIVE-C", "1");
    expect(await sets()).toBe("1");
  });
  it.each([
    ["another kit in it", body([content("KIT-TOOL")]), "contents.0.item part-is-kit"],
    ["work in it", body([content("LAB-B")]), "contents.0.item not-stocked"],
    ["something unknown", body([content("NO-SUCH")]), "contents.0.item item-unknown"],
    ["half a piece", body([content("SMK-S", "0.5")]), "contents.0.quantity decimals"],
    [
      "a swap that names nothing",
      body([content("SMK-S", "1", { swap: "listed" })]),
      "contents.0.swaps swaps-needed",
    ],
    [
      "swaps of a fixed content",
      body([content("SMK-S", "1", { swaps: ["HTL-J"] })]),
      "contents.0.swaps swaps-not-listed",
    ],
    [
      "a swap told in another unit",
      body([content("SMK-S", "1", { swap: "listed", swaps: ["GLV-M"] })]),
      "contents.0.swaps.0 swap-unit",
    ],
    ["nothing in it", body([]), "contents invalid-input"],
    [
      "more than all of it off",
      body([content("SMK-S")], { priceRule: "sum", discount: "101" }),
      "discount invalid-input",
    ],
  ])("is refused with %s, at the field", async (_, kit, field) => {
    const world = await demoWorld();
    const before = await sheet(world, "KIT-TOOL");
    expect(fieldsOf((await save(world, "KIT-TOOL", kit)).error)).toEqual([field]);
    expect((await sheet(world, "KIT-TOOL")).kit).toEqual(before.kit);
  });
  it("is only what is called one: contents of a product are refused", async () => {
    const world = await demoWorld();
    const { error } = await save(world, "HIVE-N", body([content("SMK-S")]));
    expect(error.fields.map((f) => f.code)).toEqual(["not-kit"]);
  });
  it("is copied with its contents and swaps, and lives on its own then", async () => {
    const world = await demoWorld();
    const id = await world.idOf("KIT-YARD");
    await world.ok(routes.copyItem, { params: { id }, body: { code: "KIT-YARD-2", name: "Second set" } });
    const copied = await sheet(world, "KIT-YARD-2");
    const original = await sheet(world, "KIT-YARD");
    expect(copied.kit?.contents.map((c) => [c.item.code, c.swaps.map((s) => s.code)])).toEqual(
      original.kit?.contents.map((c) => [c.item.code, c.swaps.map((s) => s.code)]),
    );
    await save(world, "KIT-YARD-2", body([content("HTL-J")]));
    expect((await sheet(world, "KIT-YARD")).kit?.contents).toHaveLength(5);
  });
});

describe("prices that fell behind", () => {
  it("are listed worst first, with the price that would leave the wish", async () => {
    const world = await demoWorld();
    const { wish, rows } = await world.ok(routes.prices, { query: { wish: "25" } });
    expect([wish, rows.map((r) => [r.code, r.percent, r.suggested])]).toEqual([
      "25",
      [
        ["HIVE-N", "9.8", "197.34"],
        ["KIT-YARD", "10.2", "286.14"],
        ["KIT-CARE", "21.4", "20.86"],
        ["HIVE-C", "24.4", "291.20"],
      ],
    ]);
    expect((await world.ok(routes.prices, {})).wish).toBe("30");
  });
  it("are changed together, all or none, and the wish is remembered", async () => {
    const world = await demoWorld();
    const [hive, tools] = [await world.idOf("HIVE-N"), await world.idOf("KIT-TOOL")];
    const both = {
      wish: "25",
      prices: [
        { item: hive, price: "199.00" },
        { item: tools, price: "50.00" },
      ],
    };
    expect(fieldsOf((await world.call(routes.reprice, { body: both })).error)).toEqual([
      "prices.1.price price-follows",
    ]);
    expect((await sheet(world, "HIVE-N")).price).toBe("164.00");
    await world.ok(routes.reprice, { body: { ...both, prices: both.prices.slice(0, 1) } });
    const { wish, rows } = await world.ok(routes.prices, {});
    expect([wish, rows.map((r) => r.code)]).toEqual([
      "25",
      ["KIT-YARD", "KIT-CARE", "HIVE-C"].filter((c) => rows.some((r) => r.code === c)),
    ]);
    expect(rows.some((r) => r.code === "HIVE-N")).toBe(false);
  });
});
