import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { routes } from "@yosegi/contract";
import sqlite3 from "sqlite3";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { audit } from "../audits.ts";
import { openStore, VIEWS } from "../store.ts";
import { bareWorld, demoWorld } from "../testing/world.ts";
import { Connection } from "./connection.ts";
import { change, nextNumber, read, type Writing } from "./context.ts";
import { migrate, migrateTo } from "./migrating.ts";
import { openDb } from "./open.ts";
import { settleAll } from "./sql.ts";

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
    await first.close();
    expect(await migrate(file, VIEWS)).toEqual([]);
    const second = await openStore(file);
    expect(await read(second, (ctx) => ctx.sql.all("SELECT name FROM person"))).toEqual([{ name: "Ines" }]);
    await second.close();
  });
  it("writes ahead, keeps foreign keys, and waits for the disk", async () => {
    const store = await openStore(join(folder, "a.db"));
    const pragma = (name: string) => read(store, (ctx) => ctx.sql.one(`PRAGMA ${name}`));
    expect(await pragma("journal_mode")).toEqual({ journal_mode: "wal" });
    expect(await pragma("foreign_keys")).toEqual({ foreign_keys: 1 });
    expect(await pragma("synchronous")).toEqual({ synchronous: 2 });
    await store.close();
  });
  it("keeps statements prepared, in order, and goes on after one that is wrong", async () => {
    const connection = new Connection(
      join(folder, "kept.db"),
      sqlite3.OPEN_READWRITE | sqlite3.OPEN_CREATE,
      () => {},
    );
    const send = (method: "all" | "run", sql: string, values: Record<string, unknown> = {}) =>
      new Promise<unknown>((resolve, reject) =>
        connection[method](sql, values, (error: Error | null, rows?: unknown) =>
          error ? reject(error) : resolve(rows),
        ),
      );
    await send("run", "CREATE TABLE t (n INTEGER) STRICT");
    const added = "INSERT INTO t (n) VALUES ($n)";
    const sent = [
      ...Array.from({ length: 50 }, (_, n) => send("run", added, { $n: n })),
      send("all", "SELECT n FROM nowhere"),
      send("run", added, { $n: "no number" }),
      send("all", "SELECT COUNT(*) AS n, MAX(n) AS last FROM t"),
      send("run", added, { $n: 50 }),
      send("all", "SELECT COUNT(*) AS n, MAX(n) AS last FROM t"),
    ];
    const ends = (await Promise.allSettled(sent)).slice(50);
    expect(ends.map((end) => (end.status === "fulfilled" ? end.value : String(end.reason)))).toEqual([
      "Error: SQLITE_ERROR: no such table: nowhere",
      expect.stringContaining("cannot store TEXT value in INTEGER column"),
      [{ n: 50, last: 49 }],
      undefined,
      [{ n: 51, last: 50 }],
    ]);
    // A change of a table reaches statements that were prepared before it, and what gives rows to `run` is not left open.
    await send("run", "ALTER TABLE t ADD COLUMN more TEXT");
    await send("run", "BEGIN");
    await send("run", "INSERT INTO t (n) VALUES (51) RETURNING n");
    await send("run", "COMMIT");
    for (let i = 0; i < 400; i++) await send("all", `SELECT ${i} AS i`);
    expect(await send("all", "SELECT * FROM t WHERE n > 50")).toEqual([{ n: 51, more: null }]);
    await new Promise<void>((resolve, reject) =>
      connection.close((error) => (error ? reject(error) : resolve())),
    );
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
  it("is brought on from before builds in full, with all that stands in it", async () => {
    await migrateTo(join(folder, "old.db"), { step: "0007-buying" });
    const db = openDb(join(folder, "old.db"));
    const run = (sql: string) => db.query(sql);
    for (const sql of [
      "INSERT INTO person (id, name, name_key) VALUES (1, 'Ines', 'INES')",
      "INSERT INTO place (id, name, name_key, kind) VALUES (1, 'Front store', 'FRONT STORE', 'store')",
      "INSERT INTO item (id, code, code_key, name, search, kind, unit, tracking, home_bin) VALUES (1, 'A', 'A', 'Part', 'a', 'bought', 'pc', 'none', ''), (2, 'B', 'B', 'Product', 'b', 'built', 'pc', 'none', '')",
      "INSERT INTO build (id, number, product_id, quantity, wanted, good, rejected, stage, note, makes, overhead, made_by, made_at) VALUES (1, 'B-1', 2, 5000000, 5000000, 2000000, 0, 'queued', 'old', 1000000, 0, 1, '2026-01-01')",
      "INSERT INTO build_line (build_id, line, item_id, quantity, unit, waste, once, need, used, open) VALUES (1, 1, 1, 1000000, 'pc', 0, 0, 5000000, 2000000, 3000000)",
      "INSERT INTO posting (id, kind, document, build_id, person_id, day, moment, reason) VALUES (1, 'opening', 'I-1', NULL, 1, '2026-01-01', '2026-01-01', ''), (2, 'finish', 'B-1', 1, 1, '2026-01-02', '2026-01-02', '')",
      "INSERT INTO movement (posting_id, item_id, quantity, from_place, from_bin, to_place, to_bin, lot, serial, value) VALUES (1, 1, 9000000, NULL, '', 1, '', '', '', 90000), (2, 1, 2000000, 1, '', NULL, '', '', '', 20000), (2, 2, 2000000, NULL, '', 1, '', '', '', 20000)",
      "INSERT INTO balance (item_id, lot, serial, place_id, bin, quantity) VALUES (1, '', '', 1, '', 7000000), (2, '', '', 1, '', 2000000)",
      "INSERT INTO pool (item_id, lot, serial, quantity, value) VALUES (1, '', '', 7000000, 70000), (2, '', '', 2000000, 20000)",
      "INSERT INTO finish (id, build_id, posting_id, good, rejected, place_id, bin, lot, parts, work, overhead, extra, total) VALUES (1, 1, 2, 2000000, 0, 1, '', '', 20000, 0, 0, 0, 20000)",
      "INSERT INTO finish_line (finish_id, line, planned, used, cost, difference_cost) VALUES (1, 1, 2000000, 2000000, 20000, 0)",
    ])
      await run(sql);
    await db.close();
    const store = await openStore(join(folder, "old.db"));
    expect(await read(store, audit)).toEqual([]);
    const row = await read(store, (ctx) =>
      ctx.sql.one(
        `SELECT b.stage, b.note, b.priority, l.bench, f.fee, f.undone_at, (SELECT COUNT(*) FROM movement) AS movements
           FROM build b JOIN build_line l ON l.build_id = b.id JOIN finish f ON f.build_id = b.id`,
      ),
    );
    expect(row).toEqual({
      stage: "queued",
      note: "old",
      priority: 1,
      bench: 0,
      fee: 0,
      undone_at: null,
      movements: 3,
    });
    expect(await read(store, (ctx) => ctx.sql.all("PRAGMA foreign_key_check"))).toEqual([]);
    const stays = change(store, 1, (ctx) => ctx.sql.run("UPDATE posting SET reason = 'x'"));
    await expect(stays).rejects.toThrow();
    await store.close();
  });
  it("waits for all that was sent together, also where one fails, and takes it all back", async () => {
    const { store, ok } = await bareWorld();
    const add = (ctx: Writing, name: string) =>
      ctx.sql.run("INSERT INTO person (name, name_key) VALUES ($name, upper($name))", { name });
    let late = false;
    const failing = change(store, 1, (ctx) =>
      settleAll(
        add(ctx, "Ines"),
        null,
        add(ctx, "Nora").then(async () => {
          await add(ctx, "Olga");
          late = true;
        }),
      ),
    );
    await expect(failing).rejects.toThrow();
    expect(late).toBe(true);
    expect((await ok(routes.people, {})).people.map((p) => p.name)).toEqual(["Ines"]);
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
