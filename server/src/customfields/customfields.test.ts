import { routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import type { World } from "../testing/open.ts";
import { demoWorld, fieldsOf } from "../testing/world.ts";

const made = async (world: World, name: string, type: string) =>
  (await world.ok(routes.newCustomField, { body: { name, type } })).id;

const fill = (world: World, owner: string, id: number, code: string, values: [number, string][]) =>
  world.call(routes.fillIn, {
    body: { owner, id, code, values: values.map(([field, value]) => ({ field, value })) },
  });

describe("fields of one's own", () => {
  it("are defined once and filled in for items, lists, lots and serials alike", async () => {
    const world = await demoWorld();
    const colour = await made(world, "Colour", "text");
    const [syrup, scale, feed] = [
      await world.idOf("SYR-72"),
      await world.idOf("SCL-E"),
      await world.idOf("FEED-12"),
    ];
    const list = (await world.ok(routes.lists, { params: { id: feed } })).lists[0]?.id ?? 0;
    const statuses = [
      await fill(world, "item", syrup, "", [[colour, "amber"]]),
      await fill(world, "lot", syrup, "HS-118", [[colour, "dark amber"]]),
      await fill(world, "serial", scale, "SC-2041", [[colour, "grey"]]),
      await fill(world, "list", list, "", [[colour, "green"]]),
    ].map((reply) => reply.status);
    expect(statuses).toEqual([200, 200, 200, 200]);
    const item = await world.ok(routes.item, { params: { id: syrup } });
    expect(item.custom).toEqual([{ field: colour, name: "Colour", type: "text", value: "amber" }]);
    expect(item.stockByBin.map((l) => [l.lot, l.custom[0]?.value])).toEqual([
      ["HS-109", ""],
      ["HS-114", ""],
      ["HS-118", "dark amber"],
    ]);
    expect((await world.ok(routes.item, { params: { id: feed } })).list?.custom[0]?.value).toBe("green");
  });
  it.each([
    ["number", "twelve", "custom-number"],
    ["number", "1e3", "custom-number"],
    ["date", "2026-02-30", "custom-day"],
    ["yes/no", "maybe", "custom-yes"],
  ])("of type %s refuse %s, and keep what they had", async (type, value, code) => {
    const world = await demoWorld();
    const [field, item] = [await made(world, "Field", type), await world.idOf("BOX-D")];
    const good = { number: "12.5", date: "2026-02-28", "yes/no": "yes" }[type] ?? "";
    expect((await fill(world, "item", item, "", [[field, good]])).status).toBe(200);
    expect(fieldsOf((await fill(world, "item", item, "", [[field, value]])).error)).toEqual([
      `values.0.value ${code}`,
    ]);
    expect((await world.ok(routes.item, { params: { id: item } })).custom[0]?.value).toBe(good);
    // left empty, it is taken out
    await fill(world, "item", item, "", [[field, ""]]);
    expect((await world.ok(routes.item, { params: { id: item } })).custom[0]?.value).toBe("");
  });
  it("belong to things that are there", async () => {
    const world = await demoWorld();
    const field = await made(world, "Colour", "text");
    const syrup = await world.idOf("SYR-72");
    expect((await fill(world, "lot", syrup, "NO-SUCH", [[field, "x"]])).status).toBe(404);
    expect((await fill(world, "item", 9999, "", [[field, "x"]])).status).toBe(404);
    expect((await fill(world, "item", syrup, "", [[99, "x"]])).status).toBe(404);
  });
  it("have a name of their own, may be renamed, and go with all that was filled in", async () => {
    const world = await demoWorld();
    const [colour, item] = [await made(world, "Colour", "text"), await world.idOf("BOX-D")];
    expect(
      fieldsOf((await world.call(routes.newCustomField, { body: { name: "COLOUR", type: "date" } })).error),
    ).toEqual(["name name-taken"]);
    await fill(world, "item", item, "", [[colour, "pine"]]);
    await world.ok(routes.changeCustomField, { params: { id: colour }, body: { name: "Wood" } });
    expect((await world.ok(routes.item, { params: { id: item } })).custom).toMatchObject([
      { name: "Wood", value: "pine" },
    ]);
    await world.ok(routes.removeCustomField, { params: { id: colour } });
    expect((await world.ok(routes.item, { params: { id: item } })).custom).toEqual([]);
  });
});
