import { type AnswerOf, PLAIN_BUILD, routes } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { TODAY, type World } from "../testing/open.ts";
import { demoWorld, fieldsOf, finishOf } from "../testing/world.ts";

type Sheet = AnswerOf<typeof routes.build>;

const sheetOf = (world: World, id: number) => world.ok(routes.build, { params: { id } });
const needs = (sheet: Sheet) => sheet.lines.map((l) => `${l.item.code} ${l.need} ${l.open}`);

/** The parts of a build as the page sends them back. */
const partsOf = (sheet: Sheet) =>
  sheet.lines.map(({ line, item, need, note }) => ({ line, item: item.id, quantity: need, note }));

const setParts = (world: World, id: number, parts: unknown, version?: number) =>
  world.call(routes.changeParts, {
    params: { id },
    body: { parts },
    ...(version !== undefined && { version }),
  });

async function draft(world: World, code: string, quantity: string): Promise<number> {
  const body = { ...PLAIN_BUILD, product: await world.idOf(code), quantity };
  return (await world.ok(routes.newBuild, { body })).id;
}

const LOT = { lot: "AF-09", expiry: "2027-09-30", bin: "04-C" };

describe("the parts of one build", () => {
  it("are changed on a draft: quantity, a part dropped, one added, and the list stays as it is", async () => {
    const world = await demoWorld();
    const id = await draft(world, "FEED-12", "20");
    const before = await sheetOf(world, id);
    const [syrup, thymol, can, , sheet, ...work] = partsOf(before);
    const jar = await world.idOf("JAR-4");
    const parts = [
      { ...syrup, quantity: "240" },
      thymol,
      can,
      sheet,
      ...work,
      { item: jar, quantity: "3", note: "for samples" },
    ];
    expect((await setParts(world, id, parts, before.version)).status).toBe(200);
    const after = await sheetOf(world, id);
    expect(after.ownParts).toBe(true);
    expect(needs(after)).toEqual([
      "SYR-72 240 0",
      "THY-O 0.1 0",
      "CAN-12 20 0",
      "SHEET-S 1 0",
      "LAB-B 30 0",
      "JAR-4 3 0",
    ]);
    expect(after.lines.map((l) => l.listed?.need ?? null)).toEqual(["249.9", "0.1", "20", "1", "30", null]);
    expect(after.leftOut.map((l) => `${l.item.code} ${l.need} ${l.unit}`)).toEqual(["LBL-F 21 pc"]);
    // Another build of it follows the list.
    expect(needs(await sheetOf(world, await draft(world, "FEED-12", "20")))).toContain("LBL-F 21 0");
    // Half as many take half of it.
    const body = { ...PLAIN_BUILD, quantity: "10", list: after.list?.id ?? null };
    await world.ok(routes.changeBuild, { params: { id }, body });
    expect(needs(await sheetOf(world, id)).slice(0, 1)).toEqual(["SYR-72 120 0"]);
    await world.ok(routes.queueBuild, { params: { id } });
    const queued = await sheetOf(world, id);
    expect(needs(queued)).toEqual([
      "SYR-72 120 120",
      "THY-O 0.05 0.05",
      "CAN-12 10 10",
      "SHEET-S 1 1",
      "LAB-B 15 0",
      "JAR-4 2 2",
    ]);
    expect(await world.audit()).toEqual([]);
  });
  it("move what a queued build reserves, what the check counts, and what a finish plans", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "20");
    const labels = await world.idOf("LBL-F");
    const free = async () =>
      (await world.check(await world.idOf("FEED-12"), "1")).parts.find((p) => p.code === "LBL-F")?.free;
    expect(await free()).toBe("12");
    const parts = partsOf(await sheetOf(world, id)).map((p) =>
      p.item === labels ? { ...p, quantity: "25" } : p,
    );
    expect((await setParts(world, id, parts)).status).toBe(200);
    expect(await free()).toBe("8");
    const check = await world.ok(routes.cover, {
      body: { demands: [{ item: await world.idOf("FEED-12"), quantity: "20", build: id }] },
    });
    expect(check.parts.find((p) => p.code === "LBL-F")?.need).toBe("25");
    const preview = await world.ok(routes.previewFinish, { params: { id }, body: finishOf("10") });
    const line = (await sheetOf(world, id)).lines.find((l) => l.item.id === labels)?.line;
    expect(preview.lines.find((l) => l.line === line)?.planned).toBe("13");
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("20", LOT) });
    expect(await world.audit()).toEqual([]);
    const again = await setParts(world, id, parts);
    expect([again.status, again.error.code]).toEqual([409, "stage-wrong"]);
  });
  it("take a substitute in the line of a part, and follow the list again", async () => {
    const world = await demoWorld();
    const id = await world.queued("HIVE-N", "2");
    const before = await sheetOf(world, id);
    const roof = before.lines.find((l) => l.item.code === "ROOF-M");
    const crown = await world.idOf("CRN-B");
    const parts = partsOf(before).map((p) =>
      p.line === roof?.line ? { ...p, item: crown, quantity: "3" } : p,
    );
    await setParts(world, id, parts);
    const own = await sheetOf(world, id);
    const line = own.lines.find((l) => l.line === roof?.line);
    expect([line?.item.code, line?.open, line?.listed?.item.code, line?.listed?.need]).toEqual([
      "CRN-B",
      "3",
      "ROOF-M",
      "2",
    ]);
    await world.ok(routes.followList, { params: { id } });
    const after = await sheetOf(world, id);
    expect([after.ownParts, after.stage, needs(after)]).toEqual([false, "queued", needs(before)]);
    const again = await world.call(routes.followList, { params: { id } });
    expect(again.error.code).toBe("parts-not-own");
    expect(await world.audit()).toEqual([]);
  });
  it("are kept by a build moved back to draft, split or duplicated, and refuse another list", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "20");
    const parts = partsOf(await sheetOf(world, id)).slice(0, 3);
    await setParts(world, id, parts);
    await world.ok(routes.unqueueBuild, { params: { id } });
    expect(needs(await sheetOf(world, id))).toEqual(["SYR-72 249.9 0", "THY-O 0.1 0", "CAN-12 20 0"]);
    const split = await world.ok(routes.splitBuild, { params: { id }, body: { quantity: "5" } });
    expect(needs(await sheetOf(world, split.id))).toEqual(["SYR-72 62.475 0", "THY-O 0.025 0", "CAN-12 5 0"]);
    expect(needs(await sheetOf(world, id))).toEqual(["SYR-72 187.425 0", "THY-O 0.075 0", "CAN-12 15 0"]);
    const copy = await world.ok(routes.copyBuild, {
      params: { id },
      body: { quantity: "40", due: null, actual: false },
    });
    expect(needs(await sheetOf(world, copy.id))).toEqual(["SYR-72 499.8 0", "THY-O 0.2 0", "CAN-12 40 0"]);
    const joined = await world.call(routes.joinBuilds, { params: { id }, body: { other: copy.id } });
    expect(fieldsOf(joined.error)).toEqual(["other join-differs"]);
    const body = { ...PLAIN_BUILD, quantity: "20", list: 9999 };
    expect(fieldsOf((await world.call(routes.changeBuild, { params: { id }, body })).error)).toEqual([
      "list parts-own",
    ]);
    for (const build of [id, split.id, copy.id]) await world.ok(routes.queueBuild, { params: { id: build } });
    expect(await world.audit()).toEqual([]);
  });
  it("make a build of a product without any list", async () => {
    const world = await demoWorld();
    const product = await world.idOf("EXT-2R");
    const bearing = await world.idOf("BRG-6");
    const body = { ...PLAIN_BUILD, product, quantity: "1" };
    expect(fieldsOf((await world.call(routes.newBuild, { body })).error)).toEqual(["product no-list"]);
    const { id } = await world.ok(routes.newBuild, {
      body: { ...body, parts: [{ item: bearing, quantity: "2", note: "" }] },
    });
    await world.ok(routes.queueBuild, { params: { id } });
    expect(needs(await sheetOf(world, id))).toEqual(["BRG-6 2 2"]);
    const serials = ["X-0001"];
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("1", { serials }) });
    const sheet = await sheetOf(world, id);
    expect([sheet.list, sheet.finishes[0]?.cost.parts]).toEqual([null, "6.2000"]);
    const copy = await world.ok(routes.copyBuild, {
      params: { id },
      body: { quantity: "2", due: null, actual: true },
    });
    expect(needs(await sheetOf(world, copy.id))).toEqual(["BRG-6 4 0"]);
    expect(await world.audit()).toEqual([]);
  });
  it("are refused at the field, and nothing changes", async () => {
    const world = await demoWorld();
    const id = await draft(world, "FEED-12", "20");
    const sheet = await sheetOf(world, id);
    const [syrup] = partsOf(sheet);
    const refused = async (...parts: unknown[]) => fieldsOf((await setParts(world, id, parts)).error);
    const other = async (code: string, quantity = "1") => ({
      item: await world.idOf(code),
      quantity,
      note: "",
    });
    expect(await refused()).toEqual(["parts invalid-input"]);
    expect(await refused(syrup, syrup)).toEqual(["parts.1 invalid-input"]);
    expect(await refused({ ...syrup, quantity: "0" })).toEqual(["parts.0.quantity invalid-input"]);
    expect(await refused(syrup, await other("CAN-12", "1.5"))).toEqual(["parts.1.quantity decimals"]);
    expect(await refused(await other("KIT-TOOL"))).toEqual(["parts.0.item part-is-kit"]);
    expect(await refused(await other("FEED-12"))).toEqual(["parts.0.item part-is-product"]);
    expect(await refused({ ...syrup, line: 77 })).toEqual(["parts.0.line line-unknown"]);
    expect(await refused({ ...syrup, line: null, item: 99_999 })).toEqual(["parts.0.item not-found"]);
    expect((await sheetOf(world, id)).version).toBe(sheet.version);
    // What two said of one build: the second sees that the first was there.
    expect((await setParts(world, id, [syrup], sheet.version)).status).toBe(200);
    expect((await setParts(world, id, [syrup], sheet.version)).error.code).toBe("stale");
  });
  it("are not changed once something is handed out", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "20");
    await world.ok(routes.handOut, { params: { id }, body: { day: TODAY, some: false } });
    const parts = partsOf(await sheetOf(world, id));
    expect((await setParts(world, id, parts)).error.code).toBe("stage-wrong");
    await world.ok(routes.returnToStock, { params: { id }, body: { day: TODAY } });
    expect((await setParts(world, id, parts.slice(0, 2))).status).toBe(200);
    expect(await world.audit()).toEqual([]);
  });
});

describe("a build recorded in one go", () => {
  const recorded = async (world: World, code: string, quantity: string, more: object = {}) =>
    world.call(routes.recordBuild, {
      body: {
        product: await world.idOf(code),
        quantity,
        list: null,
        note: "",
        costTag: "",
        day: TODAY,
        store: "Front store",
        bin: "",
        lot: "",
        expiry: null,
        serials: [],
        ...more,
      },
    });

  it("is planned, taken and finished, for the line of an order too", async () => {
    const world = await demoWorld();
    const customer = (await world.ok(routes.firms, { query: { kind: "customer" } })).firms[0]?.id ?? 0;
    const order = await world.ok(routes.newOrder, {
      body: {
        customer,
        due: null,
        reference: "",
        note: "",
        lines: [{ id: null, item: await world.idOf("FEED-12"), quantity: "6", price: null, pricePer: "" }],
      },
    });
    const line = (await world.ok(routes.order, { params: { id: order.id } })).orderLines[0]?.id;
    const { status, answer } = await recorded(world, "FEED-12", "8", { ...LOT, line });
    expect(status).toBe(200);
    expect([answer.stage, answer.good, answer.orders.map((o) => `${o.number} ${o.quantity}`)]).toEqual([
      "finished",
      "8",
      ["O-1 6"],
    ]);
    const sheet = await sheetOf(world, answer.id);
    expect(sheet.lines.find((l) => l.item.code === "SYR-72")?.used).toBe("99.96");
    expect(await world.audit()).toEqual([]);
  });
  it("leaves nothing behind where something is missing", async () => {
    const world = await demoWorld();
    const builds = async () => (await world.ok(routes.builds)).total;
    expect(fieldsOf((await recorded(world, "FEED-12", "8")).error)).toEqual(["lot lot-needed"]);
    const short = await recorded(world, "FEED-12", "40", LOT);
    expect([short.error.code, short.error.shorts?.map((s) => s.name).length]).toEqual(["not-enough", 2]);
    expect(fieldsOf((await recorded(world, "FEED-12", "8", { ...LOT, day: "2027-01-01" })).error)).toEqual([
      "day day-future",
    ]);
    expect(fieldsOf((await recorded(world, "BOX-D", "8")).error)).toEqual(["product not-built"]);
    expect(await builds()).toBe(0);
  });
  it("begins with the next numbers of the product", async () => {
    const world = await demoWorld();
    const product = await world.idOf("FEED-12");
    const next = await world.ok(routes.nextNumbers, { query: { product } });
    expect([next.suggestedLot !== "", next.store]).toEqual([true, "Front store"]);
  });
});

it("keeps the ratio of every line when a build of its own parts grows and shrinks", async () => {
  const world = await demoWorld();
  const id = await draft(world, "FEED-12", "7");
  const [syrup, ...rest] = partsOf(await sheetOf(world, id));
  await setParts(world, id, [{ ...syrup, quantity: "100" }, ...rest]);
  const list = (await sheetOf(world, id)).list?.id ?? null;
  for (const quantity of ["7", "70", "7"]) {
    await world.ok(routes.changeBuild, { params: { id }, body: { ...PLAIN_BUILD, quantity, list } });
    const sheet = await sheetOf(world, id);
    expect(sheet.lines[0]?.need).toBe(decimal(quantity).div(7).times(100).toFixed());
    await setParts(world, id, partsOf(sheet));
  }
});
