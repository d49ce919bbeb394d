import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { routes } from "@yosegi/contract";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { bareWorld, demoWorld } from "../testing/world.ts";
import { change, nextNumber, openStore, read } from "./index.ts";
import { migrate } from "./migrations.ts";

let folder = "";
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), "yosegi-db-"));
});
afterEach(() => rm(folder, { recursive: true }));

describe("the database file", () => {
  it("is brought up to date once, and opened as it was left", async () => {
    const file = join(folder, "deep/er/yosegi.db");
    const first = await openStore(file);
    await change(first, null, (ctx) =>
      ctx.sql.run("INSERT INTO person (name, name_key) VALUES ('Ines', 'INES')"),
    );
    expect(await migrate(first.db)).toEqual([]);
    await first.db.close();
    const second = await openStore(file);
    expect(await read(second, (ctx) => ctx.sql.all("SELECT name FROM person"))).toEqual([{ name: "Ines" }]);
    await second.db.close();
  });
  it("writes ahead, keeps foreign keys, and waits for the disk", async () => {
    const store = await openStore(join(folder, "a.db"));
    const pragma = (name: string) => read(store, (ctx) => ctx.sql.one(`PRAGMA ${name}`));
    expect(await pragma("journal_mode")).toEqual({ journal_mode: "wal" });
    expect(await pragma("foreign_keys")).toEqual({ foreign_keys: 1 });
    expect(await pragma("synchronous")).toEqual({ synchronous: 2 });
    await store.db.close();
  });
  it("takes nothing back half: what a command wrote before it failed is gone", async () => {
    const { store, ok } = await bareWorld();
    const failing = change(store, 1, async (ctx) => {
      await nextNumber(ctx, "B");
      await ctx.sql.run("INSERT INTO person (name, name_key) VALUES ('Nobody', 'NOBODY')");
      throw new Error("on purpose");
    });
    await expect(failing).rejects.toThrow("on purpose");
    expect((await ok(routes.people, {})).people.map((p) => p.name)).toEqual(["Ines"]);
    expect(await change(store, 1, (ctx) => nextNumber(ctx, "B"))).toBe("B-1");
  });
  it("lets nobody write outside a command", async () => {
    const { store } = await bareWorld();
    await expect(read(store, (ctx) => ctx.sql.run("DELETE FROM person"))).rejects.toThrow(
      "A change needs a write transaction",
    );
  });
  it("runs commands one after the other, and gives each its own number", async () => {
    const { store } = await bareWorld();
    const numbers = await Promise.all(
      Array.from({ length: 50 }, () => change(store, 1, (ctx) => nextNumber(ctx, "B"))),
    );
    expect(new Set(numbers).size).toBe(50);
    expect(numbers).toContain("B-50");
  });
  it.each([
    ["a unit nobody knows", "UPDATE item SET unit = 'crate' WHERE id = 1", "FOREIGN KEY"],
    ["a second item of one code", "UPDATE item SET code_key = 'FRM-D' WHERE code = 'BOX-D'", "UNIQUE"],
    ["a kind nobody knows", "UPDATE item SET kind = 'thing' WHERE id = 1", "CHECK"],
    ["a price below zero", "UPDATE item SET price = -1 WHERE id = 1", "CHECK"],
    [
      "text in a figure",
      "UPDATE item SET price = 'dear' WHERE id = 1",
      "cannot store TEXT value in INTEGER column",
    ],
    ["an item that has movements, erased", "DELETE FROM item WHERE code = 'CAN-12'", "FOREIGN KEY"],
    [
      "a lot without a name",
      "INSERT INTO lot (item_id, code, received) VALUES (1, '', '2026-01-01')",
      "CHECK",
    ],
    ["more made than planned", "UPDATE build SET good = quantity + 1", "CHECK"],
  ])("refuses %s by itself", async (_, sql, why) => {
    const world = await demoWorld();
    await world.queued("FEED-12", "1");
    const failed = await change(world.store, 1, (ctx) => ctx.sql.run(sql)).catch(
      (error) => error.parent.message,
    );
    expect(failed).toContain(why);
  });
});
