import { routes } from "@yosegi/contract";
import { beforeEach, describe, expect, it } from "vitest";
import { change } from "../db/index.ts";
import { TODAY, type World } from "../testing/open.ts";
import { demoWorld, fieldsOf, finishOf } from "../testing/world.ts";
import { makeRecurring } from "./recurring.ts";

let world: World;

beforeEach(async () => {
  world = await demoWorld();
});

describe("what is kept in stock", () => {
  it("is suggested when free stock and open builds fall below, at least a batch", async () => {
    const id = await world.idOf("FEED-12");
    const set = async (target: string, batch: string) =>
      (await world.ok(routes.setStockTarget, { body: { product: id, target, batch } })).targets[0];
    expect(await set("10", "16")).toMatchObject({ free: "0", coming: "0", toBuild: "16" });
    expect(await set("20", "16")).toMatchObject({ toBuild: "20" });
    const build = await world.queued("FEED-12", "12");
    const rule = async () => (await world.ok(routes.recurring, {})).targets[0];
    expect(await rule()).toMatchObject({ coming: "12", toBuild: "16" });
    const body = finishOf("12", { lot: "AF-1", expiry: null });
    await world.ok(routes.finishBuild, { params: { id: build }, body });
    expect(await set("12", "16")).toMatchObject({ free: "12", coming: "0", toBuild: "0" });
    expect((await world.ok(routes.removeStockTarget, { params: { id } })).targets).toEqual([]);
  });
  it("is a product with a parts list, in whole units", async () => {
    const set = async (code: string, target: string) =>
      fieldsOf(
        (
          await world.call(routes.setStockTarget, {
            body: { product: await world.idOf(code), target, batch: "1" },
          })
        ).error,
      );
    expect(await set("BOX-D", "1")).toEqual(["product not-built"]);
    expect(await set("EXT-2R", "1")).toEqual(["product no-list"]);
    expect(await set("FEED-12", "1.5")).toEqual(["target decimals"]);
    expect(await set("FEED-12", "0")).toEqual(["target invalid-input"]);
  });
});

describe("a standing build", () => {
  const monday = {
    quantity: "12",
    weekdays: [1],
    starts: "2026-11-01",
    assigned: 2,
    note: "for the weekend",
  };
  const drafts = async () => (await world.ok(routes.builds, {})).builds;
  it("makes its draft on its day, once, however often it is asked; a later one only on its next day", async () => {
    const { recurring } = await world.ok(routes.newRecurring, {
      body: { product: await world.idOf("FRM-A"), ...monday },
    });
    expect(recurring[0]).toMatchObject({ next: "2026-11-30", lastDay: null, problem: null });
    // TODAY is a Monday.
    expect([await makeRecurring(world.store), await makeRecurring(world.store)]).toEqual([1, 0]);
    expect(await drafts()).toEqual([
      expect.objectContaining({
        quantity: "12",
        due: TODAY,
        stage: "draft",
        recurring: true,
        assigned: { id: 2, name: "Tobias" },
      }),
    ]);
    world.store.now = () => new Date("2026-12-16T09:00:00Z");
    expect(await makeRecurring(world.store)).toBe(1);
    // Two Mondays passed while nobody looked: only the latest is made.
    expect((await drafts()).map((b) => b.due)).toEqual([TODAY, "2026-12-14"]);
    const changed = { product: await world.idOf("FRM-A"), ...monday, weekdays: [3, 5, 3] };
    const id = recurring[0]?.id ?? 0;
    const after = await world.ok(routes.changeRecurring, { params: { id }, body: changed });
    expect(after.recurring[0]).toMatchObject({ weekdays: [3, 5], next: "2026-12-18" });
    expect(await makeRecurring(world.store)).toBe(1);
    await world.ok(routes.removeRecurring, { params: { id } });
    expect(await makeRecurring(world.store)).toBe(0);
    expect(await drafts()).toHaveLength(3);
  });
  it("says why it can make none, and does not target the others from theirs", async () => {
    const gone = await world.idOf("HON-4");
    await world.ok(routes.newRecurring, { body: { product: gone, ...monday } });
    await world.ok(routes.newRecurring, { body: { product: await world.idOf("FRM-A"), ...monday } });
    await change(world.store, 1, (ctx) =>
      ctx.sql.run(
        "UPDATE revision SET state = 'retired' WHERE list_id IN (SELECT id FROM parts_list WHERE product_id = $gone)",
        {
          gone,
        },
      ),
    );
    const { recurring } = await world.ok(routes.recurring, {});
    expect(recurring.map((s) => s.problem)).toEqual(["HON-4 has no parts list yet.", null]);
    expect(await makeRecurring(world.store)).toBe(1);
  });
  it("refuses what it could never make", async () => {
    const refused = async (change: object) =>
      fieldsOf(
        (
          await world.call(routes.newRecurring, {
            body: { product: await world.idOf("FRM-A"), ...monday, ...change },
          })
        ).error,
      );
    expect(await refused({ weekdays: [] })).toEqual(["weekdays invalid-input"]);
    expect(await refused({ weekdays: [8] })).toEqual(["weekdays.0 invalid-input"]);
    expect(await refused({ assigned: 77 })).toEqual(["assigned not-found"]);
    expect(await refused({ product: await world.idOf("EXT-2R") })).toEqual(["product no-list"]);
    expect(
      (
        await world.call(routes.changeRecurring, {
          params: { id: 9 },
          body: { product: await world.idOf("FRM-A"), ...monday },
        })
      ).status,
    ).toBe(404);
  });
});
