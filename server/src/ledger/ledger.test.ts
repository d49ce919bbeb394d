import { execFile } from "node:child_process";
import { fileURLToPath } from "node:url";
import { promisify } from "node:util";
import { routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { change } from "../db/index.ts";
import { handReceipt } from "../testing/companies.ts";
import { demoWorld, fieldsOf } from "../testing/world.ts";

const receipt = (item: number, change: object = {}) =>
  handReceipt(item, "10", { unitCost: "2.50", bin: "07-C", ...change });

describe("a receipt", () => {
  it("adds quantity and value, numbered, by whom and for which day", async () => {
    const world = await demoWorld();
    const item = await world.idOf("CAN-12");
    const { document } = await world.ok(routes.receive, {
      body: receipt(item, { day: "2026-11-20", reason: "counted in" }),
    });
    const sheet = await world.ok(routes.item, { params: { id: item } });
    // 48 at 2.10 and 10 at 2.50
    expect([document, sheet.onHand, sheet.value, sheet.unitCost]).toEqual([
      "RC-1",
      "58",
      "125.8000",
      "2.1690",
    ]);
    const { movements } = await world.ok(routes.movements, { query: { document } });
    expect(movements).toMatchObject([
      {
        day: "2026-11-20",
        moment: "2026-11-23T09:00:00.000Z",
        person: "Ines",
        to: "Front store 07-C",
        reason: "counted in",
      },
    ]);
    expect(await world.audit()).toEqual([]);
  });
  it.each([
    ["work", "LAB-B", {}, "lines.0.item not-stocked"],
    ["half a piece", "CAN-12", { quantity: "0.5" }, "lines.0.quantity decimals"],
    ["no lot", "SYR-72", {}, "lines.0.lot lot-needed"],
    [
      "a lot with another expiry",
      "SYR-72",
      { lot: "HS-118", expiry: "2030-01-01" },
      "lines.0.expiry expiry-differs",
    ],
    ["a serial in use", "SCL-E", { quantity: "1", serial: "SC-2041" }, "lines.0.serial serial-taken"],
    ["no cost to fall back on", "FRM-A", { unitCost: null }, "lines.0.unitCost cost-needed"],
    ["a store that is not there", "CAN-12", { store: "Attic" }, "lines.0.store store-unknown"],
    ["a day to come", "CAN-12", { day: "2026-12-24" }, "day day-future"],
  ])("is refused for %s, at its field", async (_, code, change, field) => {
    const world = await demoWorld();
    const { error } = await world.call(routes.receive, { body: receipt(await world.idOf(code), change) });
    expect(fieldsOf(error)).toEqual([field]);
    expect((await world.ok(routes.movements, { query: { document: "RC-1" } })).total).toBe(0);
  });
  it("refuses a figure that would not be kept exactly", async () => {
    const world = await demoWorld();
    const body = receipt(await world.idOf("CAN-12"), { quantity: "999999999", unitCost: "999999999" });
    const { status, error } = await world.call(routes.receive, { body });
    expect([status, error.code]).toEqual([422, "amount-too-large"]);
  });
});

describe("the ledger", () => {
  it("pages through its movements, latest first", async () => {
    const world = await demoWorld();
    const first = await world.ok(routes.movements, { query: { limit: 40 } });
    const rest = await world.ok(routes.movements, {
      query: { limit: 40, before: first.movements.at(-1)?.id ?? 0 },
    });
    expect([first.total, first.movements.length, rest.movements.length]).toEqual([41, 40, 1]);
  });
  it("lets nothing in it be changed or erased, not even by hand", async () => {
    const { store } = await demoWorld();
    const by = (sql: string) =>
      change(store, 1, (ctx) => ctx.sql.run(sql)).catch((error) => error.parent.message);
    expect(await by("UPDATE movement SET quantity = quantity + 1 WHERE id = 1")).toContain("append-only");
    expect(await by("DELETE FROM movement WHERE id = 1")).toContain("append-only");
    expect(await by("DELETE FROM posting")).toContain("append-only");
  });
  it("keeps a balance from going below zero, and value from standing without quantity", async () => {
    const { store } = await demoWorld();
    const by = (sql: string) =>
      change(store, 1, (ctx) => ctx.sql.run(sql)).catch((error) => error.parent.message);
    expect(await by("UPDATE balance SET quantity = -1")).toContain("CHECK constraint failed");
    expect(await by("UPDATE pool SET quantity = 0")).toContain("CHECK constraint failed");
  });
});

describe("the audit", () => {
  const run = promisify(execFile);
  const script = fileURLToPath(new URL("../audit.ts", import.meta.url));
  const command = (file: string) => run(process.execPath, ["--import", "tsx", script, file]);

  it("agrees with books that are in order", async () => {
    const { file } = await demoWorld();
    expect((await command(file)).stdout).toContain("books and ledger agree");
  });
  it("prints each difference and exits 1", async () => {
    const world = await demoWorld();
    await change(world.store, 1, async (ctx) => {
      await ctx.sql.run(
        "UPDATE balance SET quantity = quantity + 1000000 WHERE item_id = (SELECT id FROM item WHERE code = 'CAN-12')",
      );
      await ctx.sql.run(
        "UPDATE pool SET value = value - 5 WHERE item_id = (SELECT id FROM item WHERE code = 'LBL-F')",
      );
    });
    const failed = await command(world.file).catch((error) => error);
    expect(failed.code).toBe(1);
    expect(failed.stdout).toContain("balance of CAN-12 at Front store 07-B: books 49, ledger 48");
    expect(failed.stdout).toContain("pool value of LBL-F: books 3.9595, ledger 3.96");
  });
  it("finds stock that is held for a build that takes no more, and a pool that lost its quantity", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "8");
    await world.ok(routes.cancelBuild, { params: { id } });
    expect(await world.audit()).toEqual([]);
    await change(world.store, 1, async (ctx) => {
      await ctx.sql.run("UPDATE build_line SET open = 3000000 WHERE line = 3");
      await ctx.sql.run(
        "UPDATE pool SET quantity = quantity - 1000000 WHERE item_id = (SELECT id FROM item WHERE code = 'LBL-F')",
      );
    });
    expect(await world.audit()).toEqual([
      { what: "pool quantity", where: "LBL-F  ", books: "32", ledger: "33" },
      { what: "reservation", where: "B-1 line 3", books: "3", ledger: "0" },
    ]);
  });
  it("says where there is no database", async () => {
    const failed = await command("/nowhere/yosegi.db").catch((error) => error);
    expect([failed.code, failed.stderr.trim()]).toEqual([2, "There is no database at /nowhere/yosegi.db."]);
  });
});
