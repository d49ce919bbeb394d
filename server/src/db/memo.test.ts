import { describe, expect, it } from "vitest";
import { bareWorld } from "../testing/world.ts";
import { change, read } from "./index.ts";

describe("what questions keep until the next change", () => {
  it("is made once for all who ask, and anew after a change", async () => {
    const { store } = await bareWorld();
    let made = 0;
    const ask = () => read(store, (ctx) => ctx.memo("answer", async () => ++made));
    expect(await Promise.all([ask(), ask(), ask()])).toEqual([1, 1, 1]);
    await change(store, 1, (ctx) => ctx.sql.run("UPDATE person SET name = name"));
    expect([await ask(), await ask()]).toEqual([2, 2]);
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
  it("is dropped by a command that failed too, and an answer that began before a change is not kept beyond it", async () => {
    const { store } = await bareWorld();
    let made = 0;
    let go = () => {};
    const slow = read(store, (ctx) =>
      ctx.memo("slow", async () => {
        await new Promise<void>((resolve) => {
          go = resolve;
        });
        return ++made;
      }),
    );
    await new Promise((resolve) => setImmediate(resolve));
    const failed = change(store, 1, async () => {
      throw new Error("not today");
    });
    await expect(failed).rejects.toThrow("not today");
    go();
    expect(await slow).toBe(1);
    expect(await read(store, (ctx) => ctx.memo("slow", async () => ++made))).toBe(2);
  });
  it("is tried again where it could not be read", async () => {
    const { store } = await bareWorld();
    const broken = () => read(store, (ctx) => ctx.memo("x", () => Promise.reject(new Error("locked"))));
    await expect(broken()).rejects.toThrow("locked");
    await new Promise((resolve) => setImmediate(resolve));
    expect(await read(store, (ctx) => ctx.memo("x", async () => "there"))).toBe("there");
  });
});
