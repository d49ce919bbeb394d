import { PLAIN_BUILD, routes } from "@yosegi/contract";
import { beforeEach, describe, expect, it } from "vitest";
import { firmId, newItem, takeIn, writeList } from "../testing/companies.ts";
import { TODAY, type World } from "../testing/open.ts";
import { demoWorld, fieldsOf, finishOf, usedOf } from "../testing/world.ts";

let world: World;

beforeEach(async () => {
  world = await demoWorld();
});

const LOT = { lot: "AF-02", expiry: "2027-09-30", bin: "04-C" };

const sheetOf = (id: number) => world.ok(routes.build, { params: { id } });

const finish = (id: number, good: string, change: object = {}) =>
  world.call(routes.finishBuild, { params: { id }, body: finishOf(good, { ...LOT, ...change }) });

const handOut = (id: number) =>
  world.call(routes.handOut, { params: { id }, body: { day: TODAY, some: true } });

async function subcontracted(quantity: string, supplier: number): Promise<number> {
  const body = { ...PLAIN_BUILD, product: await world.idOf("FEED-12"), quantity, subcontractor: supplier };
  const { id } = await world.ok(routes.newBuild, { body });
  await world.ok(routes.queueBuild, { params: { id } });
  return id;
}

describe("an subcontractor", () => {
  it("has a place of its own, whatever it is called and wherever it is renamed", async () => {
    const id = await firmId(world, "supplier", "NORR");
    const firm = await world.ok(routes.firm, { params: { id } });
    const rename = (name: string) => world.ok(routes.changeFirm, { params: { id }, body: { ...firm, name } });
    await rename("Front store");
    expect((await handOut(await subcontracted("8", id))).status).toBe(200);
    expect((await handOut(await subcontracted("8", id))).status).toBe(200);
    await rename("Norrfold outside");
    const third = await subcontracted("8", id);
    expect((await handOut(third)).status).toBe(200);
    const locations = await world.store.db.query(
      "SELECT COUNT(*) AS n FROM location WHERE kind = 'subcontractor'",
    );
    expect(locations[0]).toEqual([{ n: 1 }]);
    expect((await sheetOf(third)).benchPlace).toBe("Norrfold outside");
    expect(await world.audit()).toEqual([]);
  });
  it("is paid for the jobs that came, not for those that were cancelled", async () => {
    const supplier = await firmId(world, "supplier", "NORR");
    const id = await subcontracted("8", supplier);
    const work = await world.idOf("LAB-O");
    const lines = [
      { item: work, supplier, quantity: "10", price: "25", for: [{ build: id, quantity: "10" }] },
    ];
    const { purchases } = await world.ok(routes.buyNeeds, { body: { lines } });
    const params = { id: purchases[0]?.id ?? 0 };
    await world.ok(routes.sendPurchase, { params });
    expect((await sheetOf(id)).fee.total).toBe("250.00");
    const line = (await world.ok(routes.purchase, { params })).orderLines[0]?.id ?? 0;
    const received = { day: TODAY, lines: [{ line, quantity: "4" }] };
    await world.ok(routes.receivePurchase, { params, body: received });
    await world.ok(routes.cancelPurchase, { params });
    expect((await sheetOf(id)).fee.total).toBe("100.00");
  });
  it("that is archived gets no new build", async () => {
    const id = await firmId(world, "supplier", "NORR");
    const firm = await world.ok(routes.firm, { params: { id } });
    await world.ok(routes.changeFirm, { params: { id }, body: { ...firm, archived: true } });
    const body = { ...PLAIN_BUILD, product: await world.idOf("FEED-12"), quantity: "8", subcontractor: id };
    const made = await world.call(routes.newBuild, { body });
    expect(fieldsOf(made.error)).toEqual(["subcontractor firm-archived"]);
  });
});

describe("a finish", () => {
  it("of a product that is not counted puts nothing into stock", async () => {
    await takeIn(world, await newItem(world, "RAGS"), "100");
    const product = await newItem(world, "WIPES", { kind: "built", cost: null, notStockTracked: true });
    await writeList(world, product, [{ part: "RAGS", quantity: "2" }]);
    const id = await world.queued("WIPES", "5");
    expect((await finish(id, "5", { lot: "", expiry: null })).status).toBe(200);
    const { movements } = await world.ok(routes.movements, { query: { item: product } });
    expect(movements).toEqual([]);
    expect((await world.ok(routes.item, { params: { id: product } })).onHand).toBe("0");
    expect(await world.audit()).toEqual([]);
  });
  it("in part that puts everything back leaves nothing on the bench, and the stage says so", async () => {
    const id = await world.queued("FEED-12", "16");
    await handOut(id);
    expect((await finish(id, "8", { returnToStock: true })).status).toBe(200);
    const sheet = await sheetOf(id);
    expect([sheet.stage, sheet.lines.every((line) => line.bench === "0")]).toEqual(["queued", true]);
  });
  it("takes what is planned where a line says only what else is true of it", async () => {
    const id = await world.queued("FEED-12", "8");
    const said = (scrapped: string) => ({
      lines: [{ ...usedOf(4, "0", { scrapped, reason: "torn" }), used: null }],
    });
    expect(fieldsOf((await finish(id, "4", said("6"))).error)).toEqual([
      "lines.0.scrapped scrapped-too-much",
    ]);
    expect((await finish(id, "4", said("5"))).status).toBe(200);
    const label = (await sheetOf(id)).lines.find((line) => line.line === 4);
    expect([label?.used, label?.scrapped]).toEqual(["5", "5"]);
  });
  it("names each line, part and bin once", async () => {
    const id = await world.queued("FEED-12", "8");
    const item = await world.idOf("CAN-12");
    const count = { item, store: "Front store", bin: "07-B", there: "5", reason: "found", newBin: false };
    const twice = async (change: object) => (await finish(id, "8", change)).error.fields.map((f) => f.field);
    expect(await twice({ counts: [count, { ...count, there: "9" }] })).toEqual(["counts.1"]);
    expect(await twice({ lines: [usedOf(4, "9"), usedOf(4, "10")] })).toEqual(["lines.1"]);
  });
  it("counts in a bin that is there; a new one only on purpose", async () => {
    const id = await world.queued("FEED-12", "8");
    const count = {
      item: await world.idOf("CAN-12"),
      store: "Yard",
      bin: "07-B",
      there: "5",
      reason: "found in the yard",
    };
    const refused = await finish(id, "8", { counts: [count] });
    expect(fieldsOf(refused.error)).toEqual(["counts.0.bin bin-unknown"]);
    const kept = await finish(id, "8", { counts: [{ ...count, newBin: true }] });
    expect(kept.status).toBe(200);
  });
});

it("a build is not split where one of the two would be left without anything wanted", async () => {
  const product = await newItem(world, "SEED", { kind: "built", cost: null });
  await takeIn(world, await newItem(world, "GRAIN"), "100");
  await writeList(world, product, [{ part: "GRAIN", quantity: "1" }], { yield: "50" });
  const id = await world.queued("SEED", "1");
  // One good one wants two to be started; of two halves one would be for nobody.
  const split = await world.call(routes.splitBuild, { params: { id }, body: { quantity: "1" } });
  expect([split.status, split.error.code]).toEqual([409, "split-too-few"]);
  for (const route of [routes.unqueueBuild, routes.queueBuild])
    expect((await world.call(route, { params: { id } })).status).toBe(200);
});

it("a copy of what a build used goes by its list where that finish was taken back since", async () => {
  const id = await world.queued("FEED-12", "8");
  expect((await finish(id, "8", { lines: [usedOf(4, "12")] })).status).toBe(200);
  const body = { quantity: "8", due: null, actual: true };
  const copy = await world.ok(routes.copyBuild, { params: { id }, body });
  const labels = async () => (await sheetOf(copy.id)).lines.find((line) => line.item.code === "LBL-F")?.need;
  expect(await labels()).toBe("12");
  await world.ok(routes.undoFinish, { params: { id }, body: {} });
  expect(await labels()).toBe("9");
  const { demands } = await world.ok(routes.openDemands);
  expect((await world.call(routes.cover, { body: { demands } })).status).toBe(200);
  await world.ok(routes.queueBuild, { params: { id: copy.id } });
  const again = await world.call(routes.copyBuild, { params: { id }, body });
  expect(fieldsOf(again.error)).toEqual(["actual nothing-used"]);
});

it("a build that is gone refuses each step, and nothing of the question fails unseen", async () => {
  const params = { id: 99 };
  for (const route of [routes.previewFinish, routes.finishBuild])
    expect((await world.call(route, { params, body: finishOf("1") })).error.code).toBe("not-found");
  // What fails while nobody waits for it is reported by the test runner, and would end a server.
  await new Promise((resolve) => setImmediate(resolve));
});
