import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { addDays, decimal, sum } from "@yosegi/core";
import { audit, findBuilds, findOrders, read, type Store, takeApartSheet } from "@yosegi/server";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { playDemo } from "./play.ts";

const ALL = { search: "", limit: 1000 };

const STARTED = new Date("2026-11-23T14:00:00Z");
const TODAY = "2026-11-23";
let folder = "";
let store: Store;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "yosegi-demo-"));
  store = await playDemo(join(folder, "demo.db"), new URL("../", import.meta.url), STARTED);
});
afterAll(async () => {
  await store.close();
  await rm(folder, { recursive: true });
});

describe("the demo company", () => {
  it("shows every stage of a build, one part-finished and overdue, one that waits for a part", async () => {
    const { builds } = await read(store, (ctx) => findBuilds(ctx, ALL));
    expect(new Set(builds.map((b) => b.stage))).toEqual(
      new Set(["draft", "queued", "on the bench", "finished", "cancelled"]),
    );
    const late = builds.find((b) => b.due !== null && b.due < TODAY && b.stage === "on the bench");
    expect(late).toMatchObject({ good: "100", quantity: "400", waitsFor: ["Deep wax foundation"] });
    expect(builds.some((b) => b.rejected !== "0")).toBe(true);
  });
  it("shows an order that waits for a build, one that misses some, and one that is all there", async () => {
    const { orders } = await read(store, (ctx) => findOrders(ctx, ALL));
    expect(orders.map((o) => [o.number, o.customer.name, o.lines, o.linesReady, o.linesMissing])).toEqual([
      ["O-1", "Ashgrove Farm Shop", 1, 0, 0],
      ["O-3", "Millrow Garden Centre", 1, 1, 0],
      ["O-2", "Tarnholt Bee Club", 1, 0, 1],
    ]);
    const { builds } = await read(store, (ctx) => findBuilds(ctx, ALL));
    expect(builds.flatMap((b) => b.orders.map((o) => `${b.number} ${o.number} ${o.quantity}`))).toEqual([
      "B-6 O-1 240",
      "B-5 O-2 3",
    ]);
  });
  it("shows a take-apart with damaged parts", async () => {
    const sheet = await read(store, (ctx) => takeApartSheet(ctx, 1));
    expect(sheet.parts.map((p) => [p.item.code, p.good, p.damaged, p.missing])).toEqual([
      ["BOX-D", "0", "2", "0"],
      ["FRM-A", "0", "20", "0"],
      ["FLR-M", "0", "1", "0"],
      ["ROOF-M", "0", "0", "1"],
      ["CRN-B", "1", "0", "0"],
    ]);
    expect(decimal(sheet.valueOut)).toEqual(
      sum([sheet.recovered, sheet.damaged, sheet.missing, sheet.workPutIn].map(decimal)),
    );
  });
  it("tells its days from the day it is started", async () => {
    const { builds } = await read(store, (ctx) => findBuilds(ctx, ALL));
    expect(builds.find((b) => b.number === "B-7")?.due).toBe(addDays(TODAY, 9));
    const rows = await read(store, (ctx) =>
      ctx.sql.all<{ day: string }>("SELECT MIN(day) AS day FROM posting"),
    );
    expect(rows[0]?.day).toBe(addDays(TODAY, -14));
  });
  it("has books that agree with its ledger", async () => {
    expect(await read(store, audit)).toEqual([]);
  });
});
