import { routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { lockList, takeIn, writeList } from "../testing/companies.ts";
import { bareWorld, demoWorld } from "../testing/world.ts";
import { change, type Reading, read, type Store } from "./context.ts";
import { id, table, text } from "./table.ts";

const people = async (ctx: Reading) =>
  (await ctx.sql.one<{ n: number }>("SELECT COUNT(*) AS n FROM person"))?.n ?? 0;

const PERSON = table("person", { id: id(), name: text(), name_key: text() });

const addMaren = (store: Store) =>
  change(store, 1, (ctx) => ctx.sql.run("INSERT INTO person (name, name_key) VALUES ('Maren', 'MAREN')"));

describe("a question", () => {
  it("sees one moment, whatever is written meanwhile, and the next one sees that", async () => {
    const { store } = await bareWorld();
    const seen = await read(store, async (ctx) => {
      const before = await people(ctx);
      await addMaren(store);
      return [before, await people(ctx), await ctx.model(PERSON).count()];
    });
    expect(seen).toEqual([1, 1, 1]);
    expect(await read(store, people)).toBe(2);
  });
  it("waits for its turn where many ask at once, and lets go of its connection when it fails", async () => {
    const { store } = await bareWorld();
    const failing = Array.from({ length: 9 }, () => read(store, () => Promise.reject(new Error("no"))));
    expect((await Promise.allSettled(failing)).every((one) => one.status === "rejected")).toBe(true);
    expect(await Promise.all(Array.from({ length: 20 }, () => read(store, people)))).toEqual(
      Array(20).fill(1),
    );
  });
  it("cannot write", async () => {
    const { store } = await bareWorld();
    await expect(read(store, (ctx) => ctx.model(PERSON).destroy({ where: { id: 1 } }))).rejects.toThrow();
    expect(await read(store, people)).toBe(1);
  });
});

describe("what questions keep until the next change", () => {
  it("is made once, and anew after a change", async () => {
    const { store } = await bareWorld();
    let made = 0;
    const ask = () => read(store, (ctx) => ctx.memo("answer", async () => ++made));
    expect([await ask(), await ask(), await ask()]).toEqual([1, 1, 1]);
    await addMaren(store);
    expect([await ask(), await ask()]).toEqual([2, 2]);
  });
  it("is of the moment of its question also where a change is written while it is made", async () => {
    const { store } = await bareWorld();
    const ask = (before: () => Promise<unknown> = async () => {}) =>
      read(store, async (ctx) => {
        await before();
        return ctx.memo("people", () => people(ctx));
      });
    expect(await ask(() => addMaren(store))).toBe(1);
    expect(await ask()).toBe(2);
  });
  it("is kept beyond changes of stock where only the catalog tells it, and made anew when that changes", async () => {
    const world = await demoWorld();
    const { store } = world;
    let made = 0;
    const ask = () => read(store, (ctx) => ctx.memoOfCatalog("answer", async () => ++made));
    const item = await world.idOf("FLR-M");
    expect([await ask(), await ask()]).toEqual([1, 1]);
    await takeIn(world, item, "5");
    expect(await ask()).toBe(1);
    const sheet = await world.ok(routes.item, { params: { id: item } });
    await world.ok(routes.changeItem, { params: { id: item }, body: { ...sheet, price: "20" } });
    expect(await ask()).toBe(2);
    // A list that waits for a part to run out takes effect by what happens to stock.
    const next = await writeList(world, await world.idOf("FRM-A"), [{ part: "FRM-D", quantity: "2" }]);
    await lockList(world, next, { starts: "run out", startsAfter: item });
    expect(await ask()).toBe(3);
    await takeIn(world, item, "5");
    expect(await ask()).toBe(4);
  });
  it("is never kept within a command, which may change it itself", async () => {
    const { store } = await bareWorld();
    const seen = await change(store, 1, async (ctx) => {
      const count = () =>
        ctx.memo(
          "people",
          async () => (await ctx.sql.one<{ n: number }>("SELECT COUNT(*) AS n FROM person"))?.n,
        );
      const before = await count();
      await ctx.sql.run("INSERT INTO person (name, name_key) VALUES ('Maren', 'MAREN')");
      return [before, await count()];
    });
    expect(seen).toEqual([1, 2]);
  });
  it("is tried again where it could not be read", async () => {
    const { store } = await bareWorld();
    const broken = () => read(store, (ctx) => ctx.memo("x", () => Promise.reject(new Error("locked"))));
    await expect(broken()).rejects.toThrow("locked");
    await new Promise((resolve) => setImmediate(resolve));
    expect(await read(store, (ctx) => ctx.memo("x", async () => "there"))).toBe("there");
  });
});

it("a question knows who asks, where that is said", async () => {
  const { store } = await bareWorld();
  const asks = (person?: number) => read(store, async (ctx) => ctx.person, person);
  expect(await asks(1)).toEqual({ id: 1, name: "Ines" });
  expect([await asks(), await asks(99)]).toEqual([null, null]);
});
