import { PLAIN_BUILD, routes } from "@yosegi/contract";
import { decimal, type Movement, type Owner, ZERO } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { change, read, type Writing } from "../db/index.ts";
import { firmId, handReceipt, newItem, takeIn, writeList } from "../testing/companies.ts";
import { TODAY, type World } from "../testing/open.ts";
import { demoWorld, fieldsOf, finishOf } from "../testing/world.ts";
import { type Posting, record, undo } from "./record.ts";

const rowsOf = <Row extends object>(world: World, sql: string) =>
  read(world.store, (ctx) => ctx.sql.all<Row>(sql));

const post = (world: World, movements: readonly Movement[], more: Partial<Posting> = {}) =>
  change(world.store, 1, (ctx: Writing) =>
    record(ctx, {
      kind: "receipt",
      document: "RC-99",
      day: TODAY,
      reason: "",
      lots: [],
      movements,
      ...more,
    }),
  );

const locationOf = async (world: World, name: string) => {
  const [row] = await rowsOf<{ id: number }>(world, `SELECT id FROM location WHERE name = '${name}'`);
  return row?.id ?? 0;
};

const entries = (world: World) =>
  rowsOf<{ side: string; what: string; value: number; reason: string }>(
    world,
    "SELECT side, what, value, reason FROM posting_entry ORDER BY posting_id, position",
  );

describe("a movement", () => {
  it("says whose stock it is, what for, and by which line; recording gives its id", async () => {
    const world = await demoWorld();
    const [item, location] = [await world.idOf("CAN-12"), await locationOf(world, "Front store")];
    const spot = (owner?: Owner) => ({ location, bin: "07-B", ...(owner && { owner }) });
    const move = (purpose: Movement["purpose"], from: Movement["from"], to: Movement["to"]): Movement => ({
      item,
      lot: "",
      serial: "",
      purpose,
      quantity: decimal(2),
      from,
      to,
      value: null,
    });
    const rework: Owner = { kind: "rework", id: 5 };
    const recorded = await post(world, [
      move("handed out", spot(), spot(rework)),
      { ...move("used", spot(rework), null), source: { document: "build", id: 7, line: 3 } },
      { ...move("built", null, spot()), value: decimal("4.20") },
    ]);
    const rows = await rowsOf<{ id: number }>(
      world,
      `SELECT id, from_owner, from_owner_id, to_owner, to_owner_id, purpose, source, source_id, source_line
         FROM movement WHERE posting_id = ${recorded.id} ORDER BY id`,
    );
    expect(recorded.movements.map((movement) => movement.id)).toEqual(rows.map((row) => row.id));
    const none = { source: "", source_id: 0, source_line: 0 };
    const company = { owner: "company", owner_id: 0 };
    const ends = (from: object, to: object) => ({
      ...Object.fromEntries(Object.entries(from).map(([name, value]) => [`from_${name}`, value])),
      ...Object.fromEntries(Object.entries(to).map(([name, value]) => [`to_${name}`, value])),
    });
    const nobody = { owner: "", owner_id: 0 };
    const own = { owner: "rework", owner_id: 5 };
    expect(rows).toMatchObject([
      { ...ends(company, own), purpose: "handed out", ...none },
      { ...ends(own, nobody), purpose: "used", source: "build", source_id: 7, source_line: 3 },
      { ...ends(nobody, company), purpose: "built", ...none },
    ]);
    expect(await world.audit()).toEqual([]);
  });
  it("is refused where its posting does not balance, and nothing of it is written", async () => {
    const world = await demoWorld();
    const [item, location] = [await world.idOf("CAN-12"), await locationOf(world, "Front store")];
    const used: Movement = {
      item,
      lot: "",
      serial: "",
      purpose: "used",
      quantity: decimal(1),
      to: null,
      value: null,
      from: { location, bin: "07-B" },
    };
    await expect(post(world, [used])).rejects.toThrow("do not add up: 2.1");
    const lost = { side: "lost", what: "scrapped", value: decimal("2.10"), reason: "dented" } as const;
    await post(world, [used], { entries: [lost] });
    expect(await entries(world)).toEqual([
      { side: "lost", what: "scrapped", value: 21000, reason: "dented" },
    ]);
    expect(await world.audit()).toEqual([]);
  });
  it("of what a customer owns is worth nothing, and counts neither as free nor in the unit cost", async () => {
    const world = await demoWorld();
    const [item, location] = [await world.idOf("CAN-12"), await locationOf(world, "Front store")];
    const owner: Owner = { kind: "customer", id: await firmId(world, "customer", "MILL") };
    const before = await world.ok(routes.item, { params: { id: item } });
    const to = { location, bin: "07-B", owner };
    await post(world, [
      { item, lot: "", serial: "", purpose: "returned", quantity: decimal(9), from: null, to, value: ZERO },
    ]);
    const after = await world.ok(routes.item, { params: { id: item } });
    expect([after.free, after.unitCost, after.value]).toEqual([before.free, before.unitCost, before.value]);
    expect(await world.audit()).toEqual([]);
  });
});

describe("ids", () => {
  it("are never given twice, also where the newest was removed", async () => {
    const world = await demoWorld();
    const product = await world.idOf("FEED-12");
    const body = { product, quantity: "8", weekdays: [1], starts: TODAY, assigned: null, note: "" };
    const add = async () => (await world.ok(routes.newRecurring, { body })).recurring.at(-1)?.id ?? 0;
    const first = await add();
    await world.ok(routes.removeRecurring, { params: { id: first } });
    expect(await add()).toBeGreaterThan(first);
    const made = await newItem(world, "ONCE");
    await world.ok(routes.removeItem, { params: { id: made } });
    expect(await newItem(world, "TWICE")).toBeGreaterThan(made);
  });
});

describe("a finish without a good unit", () => {
  it("enters what it cost as a loss with its reason, and its undo takes that back", async () => {
    const world = await demoWorld();
    const id = await world.queued("FRM-A", "2");
    const body = finishOf("0", { rejected: "2", reason: "split wood" });
    await world.ok(routes.finishBuild, { params: { id }, body });
    const [loss, ...more] = (await entries(world)).filter((entry) => entry.side === "lost");
    expect([loss?.what, loss?.reason, more]).toEqual(["rejected", "split wood", []]);
    const { finishes } = await world.ok(routes.build, { params: { id } });
    expect(loss?.value).toBe(
      decimal(finishes[0]?.cost.total ?? "0")
        .times(10_000)
        .toNumber(),
    );
    expect(await world.audit()).toEqual([]);
    await world.ok(routes.undoFinish, { params: { id }, body: { all: false } });
    const all = await entries(world);
    expect(all.reduce((sum, entry) => sum + entry.value, 0)).toBe(0);
    expect(await world.audit()).toEqual([]);
  });
});

describe("a serial number", () => {
  const SCALE = "SC-2041";
  const count = (world: World, id: number, change: object) =>
    world.call(routes.finishBuild, {
      params: { id },
      body: finishOf("1", {
        serials: ["H-1"],
        counts: [
          {
            item: 0,
            store: "Front store",
            bin: "",
            lot: "",
            serial: SCALE,
            there: "1",
            cost: null,
            newBin: false,
            reason: "seen",
            ...change,
          },
        ],
      }),
    });
  it("that is elsewhere can't be counted in another bin, unless it is counted away there", async () => {
    const world = await demoWorld();
    const item = await world.idOf("SCL-E");
    const id = await world.queued("HIVE-C", "1");
    const [home] = await rowsOf<{ bin: string; store: string }>(
      world,
      `SELECT b.bin, p.name AS store FROM balance b JOIN location p ON p.id = b.location_id WHERE b.serial = '${SCALE}'`,
    );
    const { status, error } = await count(world, id, { item, bin: "07-B" });
    expect([status, fieldsOf(error)]).toEqual([409, ["counts.0.serial serial-elsewhere"]]);
    expect(error.fields[0]?.message).toContain(`is in ${home?.store} ${home?.bin}`);
    const at = {
      item,
      store: "Front store",
      lot: "",
      serial: SCALE,
      cost: null,
      newBin: false,
      reason: "seen",
    };
    const counts = [
      { ...at, bin: home?.bin ?? "", there: "0" },
      { ...at, bin: "07-B", there: "1" },
    ];
    const body = finishOf("1", { serials: ["H-1"], counts });
    await world.ok(routes.finishBuild, { params: { id }, body });
    expect(await world.audit()).toEqual([]);
  });
  it("that went into a unit can't be received, counted or built again, and says where it is", async () => {
    const world = await demoWorld();
    const item = await world.idOf("SCL-E");
    const id = await world.queued("HIVE-C", "2");
    const first = { serials: ["H-1"], serialParts: [] };
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("1", first) });
    const { finishes } = await world.ok(routes.build, { params: { id } });
    const part = finishes[0]?.serialParts[0]?.part ?? "";
    const received = await world.call(routes.receive, {
      body: handReceipt(item, "1", { unitCost: "1", serial: part }),
    });
    expect(received.error.fields[0]?.message).toBe(`Serial ${part} is already used: inside a unit (B-1).`);
    const counted = await world.call(routes.finishBuild, {
      params: { id },
      body: finishOf("1", {
        serials: ["H-2"],
        counts: [
          {
            item,
            store: "Front store",
            bin: "",
            lot: "",
            serial: part,
            there: "1",
            cost: null,
            newBin: false,
            reason: "found",
          },
        ],
      }),
    });
    expect(fieldsOf(counted.error)).toEqual(["counts.0.serial serial-elsewhere"]);
  });
  it("stays known where its receipt is undone but something else moved it too, and may come in again", async () => {
    const world = await demoWorld();
    const item = await world.idOf("SCL-E");
    const supplier = await firmId(world, "supplier", "SENS");
    const lines = [{ item, quantity: "2", price: "60", pricePer: "" }];
    const { id } = await world.ok(routes.newPurchase, { body: { supplier, note: "", lines } });
    const order = await world.ok(routes.sendPurchase, { params: { id } });
    const line = order.orderLines[0]?.id ?? 0;
    const at = { store: "Front store", bin: "12-A" };
    const body = { day: TODAY, lines: [{ line, quantity: "2", ...at, serials: ["SC-8", "SC-9"] }] };
    const sheet = await world.ok(routes.receivePurchase, { params: { id }, body });
    // SC-9 goes to a rework and comes back: that stays, whatever becomes of the receipt.
    const spot = { location: await locationOf(world, "Front store"), bin: "12-A" };
    const rework = { ...spot, owner: { kind: "rework", id: 1 } as const };
    const key = { item, lot: "", serial: "SC-9", quantity: decimal(1), value: null };
    await post(world, [
      { ...key, purpose: "handed out", from: spot, to: rework },
      { ...key, purpose: "returned to stock", from: rework, to: spot },
    ]);
    await world.ok(routes.undoReceipt, { params: { id: sheet.receipts[0]?.id ?? 0 } });
    const known = "SELECT code FROM serial WHERE code IN ('SC-8', 'SC-9')";
    expect(await rowsOf(world, known)).toEqual([{ code: "SC-9" }]);
    await world.ok(routes.receivePurchase, { params: { id }, body });
    const again = await world.call(routes.receive, {
      body: handReceipt(item, "1", { unitCost: "1", ...at, serial: "SC-9" }),
    });
    expect(again.error.fields[0]?.message).toBe("Serial SC-9 is already used: in Front store 12-A.");
    expect(await world.audit()).toEqual([]);
  });
  it("that came back from a customer keeps its shipment from being undone", async () => {
    const world = await demoWorld();
    const [item, location] = [await world.idOf("SCL-E"), await locationOf(world, "Front store")];
    const at = { location, bin: "12-A" };
    const key = { item, lot: "", serial: SCALE, quantity: decimal(1) };
    const ship: Movement = { ...key, purpose: "shipped", from: at, to: null, value: null };
    const back: Movement = { ...key, purpose: "returned", from: null, to: at, value: decimal(64) };
    const shipped = await post(world, [ship]);
    await expect(post(world, [{ ...back, purpose: "counted" }])).rejects.toThrow(
      `Serial ${SCALE} is with a customer (RC-99).`,
    );
    const returned = await post(world, [back]);
    const undoing = (undoes: number) =>
      change(world.store, 1, (ctx) => undo(ctx, { kind: "receipt", document: "RC-99", reason: "", undoes }));
    await expect(undoing(shipped.id)).rejects.toThrow(`Serial ${SCALE} is in Front store 12-A.`);
    await undoing(returned.id);
    await undoing(shipped.id);
    expect(await world.audit()).toEqual([]);
  });
  it("of a part of a rejected unit goes into no good one", async () => {
    const world = await demoWorld();
    const id = await world.queued("HIVE-C", "2");
    const body = finishOf("1", { rejected: "1", reason: "warped", serials: ["H-1"] });
    await world.ok(routes.finishBuild, { params: { id }, body });
    const { finishes, lines } = await world.ok(routes.build, { params: { id } });
    const scales = lines.find((line) => line.item.code === "SCL-E");
    expect([scales?.used, finishes[0]?.serialParts.map((part) => part.serial)]).toEqual(["2", ["H-1"]]);
  });
});

describe("dating back", () => {
  const [BEFORE, CAME] = ["2026-11-02", "2026-11-20"];
  /** A build of two, whose one part came, ten of it, on a day. */
  async function started(world: World) {
    const part = await newItem(world, "NAIL");
    const product = await newItem(world, "SHELF", { kind: "built", cost: null });
    await writeList(world, product, [{ part: "NAIL", quantity: "5" }]);
    await takeIn(world, part, "10", { day: CAME, bin: "07-C" });
    const { id } = await world.ok(routes.newBuild, { body: { ...PLAIN_BUILD, product, quantity: "2" } });
    await world.ok(routes.queueBuild, { params: { id } });
    return { id, part };
  }
  const finish = (world: World, id: number, day: string, change: object = {}) =>
    world.call(routes.finishBuild, { params: { id }, body: finishOf("2", { day, ...change }) });

  it("is refused before the parts had come, with the earliest day that works", async () => {
    const world = await demoWorld();
    const { id } = await started(world);
    const { status, error } = await finish(world, id, BEFORE);
    expect([status, fieldsOf(error)]).toEqual([422, ["day too-early"]]);
    expect(error.fields[0]?.message).toBe(
      `On ${BEFORE} there was not enough NAIL in stock. The earliest day that works is ${CAME}.`,
    );
    expect((await finish(world, id, CAME)).status).toBe(200);
    expect(await world.audit()).toEqual([]);
  });
  it("is refused where the parts were used up meanwhile, though they are in stock again", async () => {
    const world = await demoWorld();
    const { id, part } = await started(world);
    const location = await locationOf(world, "Front store");
    const gone = { item: part, lot: "", serial: "", quantity: decimal(9), value: null, to: null };
    const from = { location, bin: "07-C" };
    await post(world, [{ ...gone, purpose: "shipped", from }], { day: "2026-11-21" });
    await takeIn(world, part, "20", { day: "2026-11-22", bin: "07-C" });
    const { error } = await finish(world, id, CAME);
    expect(error.fields[0]?.message).toContain("The earliest day that works is 2026-11-22.");
  });
  it("may go further back by what a count in the same step found", async () => {
    const world = await demoWorld();
    const { id, part } = await started(world);
    const at = {
      item: part,
      store: "Front store",
      bin: "07-C",
      lot: "",
      serial: "",
      cost: null,
      newBin: false,
    };
    const counts = [{ ...at, there: "20", reason: "behind the door" }];
    expect((await finish(world, id, BEFORE, { counts })).status).toBe(200);
    expect(await world.audit()).toEqual([]);
  });
});

describe("a price put right afterwards", () => {
  async function received(world: World) {
    const item = await world.idOf("FLR-M");
    const supplier = await firmId(world, "supplier", "NORR");
    const lines = [{ item, quantity: "10", price: "4", pricePer: "" }];
    const { id } = await world.ok(routes.newPurchase, { body: { supplier, note: "", lines } });
    const order = await world.ok(routes.sendPurchase, { params: { id } });
    const line = order.orderLines[0]?.id ?? 0;
    const body = { day: TODAY, lines: [{ line, quantity: "10" }] };
    const sheet = await world.ok(routes.receivePurchase, { params: { id }, body });
    return { item, receipt: sheet.receipts[0]?.id ?? 0 };
  }
  const worthOf = async (world: World, id: number) =>
    decimal((await world.ok(routes.item, { params: { id } })).value);
  it("changes what is in stock, goes with the receipt where that is undone, and balances", async () => {
    const world = await demoWorld();
    const { item, receipt } = await received(world);
    const before = await worthOf(world, item);
    const correct = (price: string, reason = "the bill said so") =>
      world.call(routes.correctPrice, {
        params: { id: receipt },
        body: { line: 1, price, pricePer: "", reason },
      });
    expect(fieldsOf((await correct("5", "")).error)).toEqual(["reason invalid-input"]);
    expect(fieldsOf((await correct("4")).error)).toEqual(["price price-same"]);
    const { answer } = await correct("5.50");
    expect([answer.receipts[0]?.lines[0]?.price, answer.receipts[0]?.value]).toEqual(["5.5", "55.00"]);
    expect((await worthOf(world, item)).minus(before).toFixed(2)).toBe("15.00");
    await correct("3.50");
    expect((await worthOf(world, item)).minus(before).toFixed(2)).toBe("-5.00");
    await world.ok(routes.undoReceipt, { params: { id: receipt } });
    expect((await worthOf(world, item)).minus(before).toFixed(2)).toBe("-40.00");
    expect(await world.audit()).toEqual([]);
  });
  it("of what has been used already is a price difference, with its reason", async () => {
    const world = await demoWorld();
    const item = await newItem(world, "NAIL");
    const location = await locationOf(world, "Front store");
    const supplier = await firmId(world, "supplier", "NORR");
    const lines = [{ item, quantity: "10", price: "1", pricePer: "" }];
    const { id } = await world.ok(routes.newPurchase, { body: { supplier, note: "", lines } });
    const order = await world.ok(routes.sendPurchase, { params: { id } });
    const body = {
      day: TODAY,
      lines: [{ line: order.orderLines[0]?.id ?? 0, quantity: "10", store: "Front store" }],
    };
    const sheet = await world.ok(routes.receivePurchase, { params: { id }, body });
    const used: Movement = {
      item,
      lot: "",
      serial: "",
      purpose: "shipped",
      quantity: decimal(6),
      to: null,
      value: null,
      from: { location, bin: "" },
    };
    await post(world, [used]);
    const receipt = sheet.receipts[0]?.id ?? 0;
    const right = { line: 1, price: "2", pricePer: "", reason: "freight" };
    await world.ok(routes.correctPrice, { params: { id: receipt }, body: right });
    expect((await worthOf(world, item)).toFixed(4)).toBe("8.0000");
    expect(await entries(world)).toEqual([
      { side: "added", what: "price corrected", value: 60_000, reason: "" },
      { side: "lost", what: "price difference", value: 60_000, reason: "freight" },
    ]);
    expect(await world.audit()).toEqual([]);
  });
});

it("a rework with the number of a build has nothing on the build's bench", async () => {
  const world = await demoWorld();
  const id = await world.queued("FEED-12", "2");
  const from = { location: await locationOf(world, "Front store"), bin: "07-B" };
  const key = { item: await world.idOf("CAN-12"), lot: "", serial: "", quantity: decimal(1), value: null };
  const to = { ...from, owner: { kind: "rework", id } as const };
  await post(world, [{ ...key, purpose: "handed out", from, to }]);
  const { lines } = await world.ok(routes.build, { params: { id } });
  expect(lines.every((line) => line.bench === "0")).toBe(true);
  await world.ok(routes.finishBuild, { params: { id }, body: finishOf("2", { lot: "AF-9", expiry: null }) });
  expect(await world.audit()).toEqual([]);
});
