import { routes } from "@yosegi/contract";
import { afterEach, describe, expect, it } from "vitest";
import { closeWorlds, demoWorld, fieldsOf, TODAY, type World } from "../testing/world.ts";

afterEach(closeWorlds);

/** Where an item lies, as "store bin quantity". */
async function spots(world: World, code: string): Promise<string[]> {
  const item = await world.ok(routes.item, { params: { id: await world.idOf(code) } });
  return item.stockByBin.map(({ store, bin, quantity }) => `${store} ${bin} ${quantity}`);
}

const lineOf = async (world: World, code: string, quantity: string) => {
  const item = await world.ok(routes.item, { params: { id: await world.idOf(code) } });
  const [spot] = item.stockByBin;
  return { item: item.id, store: spot?.store ?? "", bin: spot?.bin ?? "", lot: spot?.lot ?? "", quantity };
};

const move = async (world: World, code: string, quantity: string, toBin: string) => ({
  lines: [{ ...(await lineOf(world, code, quantity)), toStore: "Yard", toBin }],
  day: TODAY,
});

describe("stock is moved", () => {
  it("to another bin at its value, and back by an undo", async () => {
    const world = await demoWorld();
    const before = await spots(world, "HTL-J");
    const { document } = await world.ok(routes.moveStock, { body: await move(world, "HTL-J", "2", "Y9-Z") });
    expect(document).toBe("M-1");
    expect(await spots(world, "HTL-J")).toContain("Yard Y9-Z 2");
    await world.ok(routes.undoStock, { body: { document } });
    expect(await spots(world, "HTL-J")).toEqual(before);
    const again = await world.call(routes.undoStock, { body: { document } });
    expect(fieldsOf(again.error)).toEqual(["document document-undone"]);
    expect(await world.audit()).toEqual([]);
  });
  it("not beyond what is in its bin, over all lines, and not to where it is", async () => {
    const world = await demoWorld();
    const [first = ""] = await spots(world, "HTL-J");
    const all = first.split(" ").at(-1) ?? "";
    const body = await move(world, "HTL-J", all, "Y9-Z");
    const twice = { ...body, lines: [...body.lines, ...body.lines] };
    const refused = await world.call(routes.moveStock, { body: twice });
    expect(fieldsOf(refused.error)).toEqual(["lines.1.quantity stock-short-here"]);
    const same = {
      ...body,
      lines: body.lines.map((line) => ({ ...line, toStore: line.store, toBin: line.bin })),
    };
    expect(fieldsOf((await world.call(routes.moveStock, { body: same })).error)).toEqual([
      "lines.0.toBin move-same",
    ]);
    const later = await world.call(routes.moveStock, { body: { ...body, day: "2026-11-24" } });
    expect(fieldsOf(later.error)).toEqual(["day day-future"]);
    expect(fieldsOf((await world.call(routes.moveStock, { body: { lines: [], day: TODAY } })).error)).toEqual(
      ["lines invalid-input"],
    );
  });
});

describe("stock is scrapped", () => {
  it("with its reason: its value is lost, and comes back by an undo", async () => {
    const world = await demoWorld();
    const before = await spots(world, "HTL-J");
    const body = { lines: [await lineOf(world, "HTL-J", "2")], reason: "bent", costTag: "FAIR", day: TODAY };
    const { document, lost } = await world.ok(routes.scrapStock, { body });
    expect([document, lost]).toEqual(["X-1", "10.2000"]);
    expect(await world.audit()).toEqual([]);
    await world.ok(routes.undoStock, { body: { document } });
    expect(await spots(world, "HTL-J")).toEqual(before);
    const none = await world.call(routes.scrapStock, { body: { ...body, reason: "" } });
    expect(fieldsOf(none.error)).toEqual(["reason invalid-input"]);
    expect(await world.audit()).toEqual([]);
  });
  it("and a count and stock received by hand are undone too, a purchase order's receipt not here", async () => {
    const world = await demoWorld();
    const line = await lineOf(world, "HTL-J", "1");
    const counted = await world.ok(routes.count, {
      body: { item: line.item, store: line.store, bin: line.bin, there: "1", reason: "found", day: TODAY },
    });
    await world.ok(routes.undoStock, { body: { document: counted.document } });
    const other = await world.call(routes.undoStock, { body: { document: "I-1" } });
    expect(fieldsOf(other.error)).toEqual(["document document-not-undone"]);
    expect(await world.audit()).toEqual([]);
  });
});

it("a movement says on which device it was entered, by the name that its person gave it", async () => {
  const world = await demoWorld();
  const body = JSON.stringify(await move(world, "HTL-J", "1", "Y9-Z"));
  const answer = await world.app.inject({
    method: "POST",
    url: "/api/stock/moves",
    headers: {
      "content-type": "application/json",
      "yosegi-person": "1",
      "idempotency-key": "device-1",
      "yosegi-device": encodeURIComponent("Süd-Handy 2"),
    },
    payload: body,
  });
  expect(answer.statusCode).toBe(200);
  const { movements } = await world.ok(routes.movements, { query: { document: "M-1" } });
  expect(movements[0]).toMatchObject({ device: "Süd-Handy 2", costTag: "" });
  // A name that can't be read is none, and keeps nothing from being recorded.
  const odd = await world.app.inject({
    method: "POST",
    url: "/api/stock/undo",
    headers: {
      "content-type": "application/json",
      "yosegi-person": "1",
      "idempotency-key": "device-2",
      "yosegi-device": "%E0%A4%A",
    },
    payload: JSON.stringify({ document: "M-1" }),
  });
  expect(odd.statusCode).toBe(200);
});
