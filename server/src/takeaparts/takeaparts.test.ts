import { routes, type TakeApartBody, type TakeApartProposal } from "@yosegi/contract";
import { afterEach, describe, expect, it } from "vitest";
import { newItem, takeIn, writeList } from "../testing/companies.ts";
import { leaving, orderOf, shipmentOf } from "../testing/ordering.ts";
import {
  bareWorld,
  closeWorlds,
  demoWorld,
  fieldsOf,
  finishOf,
  TODAY,
  type World,
} from "../testing/world.ts";

afterEach(closeWorlds);

type Part = TakeApartBody["parts"][number];

/** All that is proposed, all of it good, back in its home bin. */
const allGood = ({ parts }: TakeApartProposal): Part[] =>
  parts.map(({ item, lot, serial, expected, home }) => ({
    item: item.id,
    lot,
    serial,
    expected,
    good: expected,
    damaged: "0",
    missing: "0",
    store: home.store || "Front store",
    bin: home.bin,
  }));

const propose = (world: World, query: object) =>
  world.ok(routes.takeApartProposal, { query: query as { item: number } });

const stockOf = async (world: World, code: string) => {
  const { items } = await world.ok(routes.items, { query: { search: code } });
  return items.find((item) => item.code === code)?.onHand;
};

/** Two hives with scales, built by serial number from parts with numbers. */
async function twoHives(world: World) {
  await takeIn(world, await world.idOf("HIVE-N"), "2", { unitCost: "148.00" });
  const build = await world.queued("HIVE-C", "2");
  const body = finishOf("2", { serials: ["H-1", "H-2"] });
  await world.ok(routes.finishBuild, { params: { id: build }, body });
  return { build, item: await world.idOf("HIVE-C") };
}

describe("a take-apart", () => {
  it("of HIVE-C by serial number finds its build and its scale; a damaged scale is scrapped, the rest comes back", async () => {
    const world = await demoWorld();
    const { build, item } = await twoHives(world);
    const hives = Number(await stockOf(world, "HIVE-N"));
    const proposal = await propose(world, { item, serial: "H-2" });
    expect(proposal.build?.id).toBe(build);
    const scale = proposal.parts.find((part) => part.item.code === "SCL-E");
    expect(proposal.parts.map((part) => [part.item.code, part.expected])).toEqual([
      ["HIVE-N", "1"],
      ["SCL-E", "1"],
    ]);
    const parts = allGood(proposal).map((part) =>
      part.serial === "" ? part : { ...part, good: "0", damaged: "1" },
    );
    const body = {
      item,
      serial: "H-2",
      quantity: "1",
      store: "Front store",
      build,
      day: TODAY,
      reason: "its scale fell",
      parts,
    };
    const preview = await world.ok(routes.previewTakeApart, { body });
    const made = await world.ok(routes.newTakeApart, { body });
    expect(made.number).toBe("T-1");
    const figures = [made.recovered, made.damaged, made.missing, made.workPutIn].map(Number);
    expect(figures.reduce((a, b) => a + b, 0)).toBeCloseTo(Number(made.valueOut), 4);
    expect(made.damaged).toBe(preview.damaged);
    expect(Number(await stockOf(world, "HIVE-N"))).toBe(hives + 1);
    expect(await world.audit()).toEqual([]);
    // Its card tells where the unit went, and the scale is scrapped.
    const card = (serial: string, of: number) => world.ok(routes.piece, { query: { item: of, serial } });
    expect((await card("H-2", item)).gone).toContain("taken apart");
    expect((await card(scale?.serial ?? "", scale?.item.id ?? 0)).gone).toContain("scrapped");
    const again = await world.call(routes.newTakeApart, { body });
    expect(fieldsOf(again.error)).toEqual(["quantity stock-short-here"]);
    const undone = await world.ok(routes.undoTakeApart, { params: { id: made.id } });
    expect(undone.undone).not.toBeNull();
    expect((await card("H-2", item)).gone).toBe("");
    expect(Number(await stockOf(world, "HIVE-N"))).toBe(hives);
    expect(await world.audit()).toEqual([]);
  });

  it("of a unit that a rework put parts into expects those too, and takes them out again", async () => {
    const world = await demoWorld();
    const { item } = await twoHives(world);
    const { id } = await world.ok(routes.newRework, {
      body: {
        item,
        day: TODAY,
        units: ["H-1", "H-2"].map((serial) => ({ serial, quantity: "1", store: "Front store", bin: "" })),
      },
    });
    const put = async (code: string, quantity: string, more: object = {}) =>
      world.ok(routes.addReworkPart, {
        params: { id },
        body: { item: await world.idOf(code), quantity, store: "Yard", bin: "Y4-A", day: TODAY, ...more },
      });
    await put("BELT-X", "1", { unit: 2 });
    await put("BRG-6", "3");
    const scale = { serial: "SC-9001", store: "Front store", bin: "12-A" };
    await takeIn(world, await world.idOf("SCL-E"), "1", { ...scale, unitCost: "64.00" });
    await put("SCL-E", "1", { unit: 2, ...scale });
    const back = [1, 2].map((unit) => ({
      unit,
      outcome: "good" as const,
      store: "Front store",
      bin: "12-B",
    }));
    await world.ok(routes.finishRework, { params: { id }, body: { day: TODAY, units: back } });
    const proposal = await propose(world, { item, serial: "H-2" });
    const expected = proposal.parts.map((part) => [part.item.code, part.serial && "numbered", part.expected]);
    // Three bearings for two hives: which of them has the third is not known.
    expect(expected).toEqual([
      ["HIVE-N", "", "1"],
      ["SCL-E", "numbered", "1"],
      ["BELT-X", "", "1"],
      ["BRG-6", "", "1"],
      ["SCL-E", "numbered", "1"],
    ]);
    const belts = Number(await stockOf(world, "BELT-X"));
    const { id: apart } = await world.ok(routes.newTakeApart, {
      body: {
        item,
        serial: "H-2",
        quantity: "1",
        build: proposal.build?.id ?? null,
        store: "Front store",
        bin: "12-B",
        day: TODAY,
        reason: "scale changed",
        parts: allGood(proposal),
      },
    });
    expect(await stockOf(world, "BELT-X")).toBe(String(belts + 1));
    expect(await world.audit()).toEqual([]);
    await world.ok(routes.undoTakeApart, { params: { id: apart } });
    expect((await propose(world, { item, serial: "H-2" })).parts).toEqual(proposal.parts);
    expect((await propose(world, { item, serial: "H-1" })).parts.map((part) => part.item.code)).toEqual([
      "HIVE-N",
      "SCL-E",
      "BRG-6",
    ]);
    expect(await world.audit()).toEqual([]);
  });

  it("goes by a revision that is chosen in place of the build, of any list of the product", async () => {
    const world = await demoWorld();
    const { item, build } = await twoHives(world);
    const { list } = await world.ok(routes.newList, {
      body: {
        product: item,
        name: "Without scale",
        copyOf: (await propose(world, { item })).revisions[0]?.id ?? 0,
      },
    });
    const hive = { part: "HIVE-N", quantity: "1", unit: "pc" };
    const { revision } = await world.ok(routes.saveList, {
      params: { id: item },
      body: { list, makes: "1", usual: "1", lines: [hive] },
    });
    const by = await propose(world, { item, serial: "H-2", revision: revision.id });
    expect([by.build, by.revision, by.parts.map((part) => part.item.code)]).toEqual([
      null,
      revision.id,
      ["HIVE-N"],
    ]);
    expect(by.revisions.map((own) => [own.list, own.number, own.inForce])).toEqual([
      ["Main", 1, true],
      ["Without scale", 1, false],
    ]);
    const body = {
      item,
      serial: "H-2",
      quantity: "1",
      store: "Front store",
      day: TODAY,
      parts: allGood(by),
      revision: revision.id,
    };
    const both = await world.call(routes.newTakeApart, { body: { ...body, build } });
    expect(fieldsOf(both.error)).toEqual(["revision take-apart-build-says"]);
    const others = (await propose(world, { item: await world.idOf("FRM-A") })).revisions[0]?.id ?? 0;
    const other = await world.call(routes.newTakeApart, { body: { ...body, revision: others } });
    expect(fieldsOf(other.error)).toEqual(["revision not-found"]);
    const made = await world.ok(routes.newTakeApart, { body });
    expect([made.build, made.revision]).toEqual([null, { list: "Without scale", number: 1 }]);
    // The draft may be thrown away: what was taken apart by it stays.
    await world.ok(routes.removeRevision, { params: { id: revision.id } });
    expect((await world.ok(routes.takeApart, { params: { id: made.id } })).revision).toBeNull();
    // What never had a list is taken apart into what is found inside.
    const bare = await newItem(world, "OLD-1", { kind: "built" });
    expect(await propose(world, { item: bare })).toMatchObject({ parts: [], revision: null, revisions: [] });
    expect(await world.audit()).toEqual([]);
  });

  it("of a build with all parts good leaves quantities as before, with lots, and values that add up", async () => {
    const world = await demoWorld();
    const codes = ["SYR-72", "THY-O", "CAN-12", "LBL-F"];
    const before = await Promise.all(codes.map((code) => stockOf(world, code)));
    const build = await world.queued("FEED-12", "8");
    await world.ok(routes.finishBuild, { params: { id: build }, body: finishOf("8", { lot: "AF-1" }) });
    const item = await world.idOf("FEED-12");
    const proposal = await propose(world, { item, lot: "AF-1", quantity: "8" });
    expect(proposal.parts.find((part) => part.item.code === "SYR-72")?.lot).not.toBe("");
    // The set-up sheet was taken once, and work does not come back.
    expect(proposal.parts.map((part) => part.item.code)).toEqual(codes);
    const made = await world.ok(routes.newTakeApart, {
      body: {
        item,
        lot: "AF-1",
        quantity: "8",
        store: "Front store",
        build,
        day: TODAY,
        parts: allGood(proposal),
      },
    });
    expect(await Promise.all(codes.map((code) => stockOf(world, code)))).toEqual(before);
    expect(Number(made.recovered) + Number(made.workPutIn)).toBeCloseTo(Number(made.valueOut), 4);
    expect(await world.audit()).toEqual([]);
    expect((await world.ok(routes.build, { params: { id: build } })).takenApart).toBe("8");
    const undo = await world.call(routes.undoFinish, { params: { id: build }, body: { all: false } });
    expect(undo.error.code).toBe("undo-blocked");
  });

  it("without a known build goes by the parts list in force, and takes never more of a build than it made", async () => {
    const world = await bareWorld();
    const [board, crate] = [await newItem(world, "BOARD"), await newItem(world, "CRATE", { kind: "built" })];
    await writeList(world, crate, [{ part: "BOARD", quantity: "6" }]);
    await takeIn(world, board, "60");
    const build = await world.queued("CRATE", "2");
    await world.ok(routes.finishBuild, { params: { id: build }, body: finishOf("2") });
    await takeIn(world, crate, "3", { unitCost: "5.00" });
    const proposal = await propose(world, { item: crate, quantity: "3" });
    expect(proposal).toMatchObject({ build: null, builds: [{ left: "2" }], parts: [{ expected: "18" }] });
    const attempt = async (change: object, part: Partial<Part> = {}) => {
      const parts = allGood(proposal).map((own) => ({ ...own, ...part }));
      const body = { item: crate, quantity: "3", store: "Front store", day: TODAY, parts, ...change };
      return fieldsOf((await world.call(routes.newTakeApart, { body })).error ?? { fields: [] });
    };
    expect(await attempt({ build })).toEqual(["quantity take-apart-of-build"]);
    expect(await attempt({ quantity: "9" })).toEqual(["quantity stock-short-here"]);
    expect(await attempt({}, { good: "17" })).toEqual(["parts.0.good take-apart-sum"]);
    expect(await attempt({}, { serial: "S-1" })).toEqual(["parts.0.serial serial-not-tracked"]);
    expect(await attempt({}, { store: "Attic" })).toEqual(["parts.0.store store-unknown"]);
    expect(await attempt({ day: "2026-12-01" })).toEqual(["day day-future"]);
    expect(await attempt({ item: board })).toEqual(["item take-apart-built"]);
    expect(await attempt({}, { item: crate })).toEqual(["parts.0.item part-is-product"]);
  });

  it("of what came back takes it from returns, and its line is inspected by it", async () => {
    const world = await demoWorld();
    await takeIn(world, await world.idOf("HIVE-N"), "2", { unitCost: "148.00" });
    const order = await orderOf(world, [["HIVE-N", "1", "164.00"]]);
    const sheet = await world.ok(routes.order, { params: { id: order.id } });
    const shipment = await world.ok(routes.shipOrder, {
      params: { id: order.id },
      body: shipmentOf([leaving(sheet.orderLines[0])]),
    });
    const item = await world.idOf("HIVE-N");
    const line = { orderLine: sheet.orderLines[0]?.id ?? 0, item, quantity: "1" };
    const back = await world.ok(routes.newReturn, {
      body: { shipment: shipment.id, day: TODAY, reason: "cracked", lines: [line] },
    });
    const proposal = await propose(world, { item, quantity: "1" });
    const made = await world.ok(routes.newTakeApart, {
      body: {
        item,
        quantity: "1",
        returnLine: { id: back.id, line: 1 },
        day: TODAY,
        parts: allGood(proposal),
      },
    });
    expect(made).toMatchObject({ return: { number: back.number }, from: `Returns ${back.number}` });
    const inspected = await world.ok(routes.return, { params: { id: back.id } });
    expect(inspected).toMatchObject({ open: 0, inspections: [{ outcome: "take apart", quantity: "1" }] });
    expect(await world.audit()).toEqual([]);
    const params = { id: back.id, inspection: inspected.inspections[0]?.id ?? 0 };
    expect((await world.call(routes.undoInspection, { params })).error.code).toBe("inspection-taken-apart");
    await world.ok(routes.undoTakeApart, { params: { id: made.id } });
    expect((await world.ok(routes.return, { params: { id: back.id } })).open).toBe(1);
    expect(await world.audit()).toEqual([]);
  });
});

describe("what a take-apart costs besides the goods", () => {
  /** Two hives in the yard, all of whose parts are proposed. */
  async function hives(world: World) {
    const item = await world.idOf("HIVE-N");
    await takeIn(world, item, "2", { unitCost: "148.00" });
    const parts = allGood(await propose(world, { item, quantity: "1" }));
    const body = { item, quantity: "1", store: "Front store", build: null, day: TODAY, parts };
    return {
      body,
      preview: (more: object) => world.ok(routes.previewTakeApart, { body: { ...body, ...more } }),
    };
  }

  it("is the time spent, at the rate of the work, lost beside the value that adds up", async () => {
    const world = await demoWorld();
    const { body, preview } = await hives(world);
    const item = await world.idOf("LAB-B");
    const without = await preview({});
    const work = { work: item, minutes: "30" };
    const found = await preview(work);
    // 32.00 an hour.
    expect(found.work).toBe("16.0000");
    expect({ ...found, work: without.work }).toEqual(without);
    const made = await world.ok(routes.newTakeApart, { body: { ...body, ...work } });
    expect([made.minutes, made.work, made.workPutIn]).toEqual(["30", found.work, without.workPutIn]);
    expect(await world.audit()).toEqual([]);
    await world.ok(routes.undoTakeApart, { params: { id: made.id } });
    expect(await world.audit()).toEqual([]);
  });

  it("is refused as time of what is no work, and where nobody sent anything back as a charge", async () => {
    const world = await demoWorld();
    const { body } = await hives(world);
    const refusal = async (more: object) =>
      fieldsOf((await world.call(routes.newTakeApart, { body: { ...body, ...more } })).error);
    const work = (item: number | null, minutes = "30") => ({ work: item, minutes });
    expect(await refusal(work(null))).toEqual(["work work-needed"]);
    expect(await refusal(work(await world.idOf("HTL-J")))).toEqual(["work not-work"]);
    expect(await refusal(work(await world.idOf("LAB-B"), "0.001"))).toEqual(["minutes decimals"]);
    expect(await refusal({ charge: true })).toEqual(["charge charge-no-return"]);
  });

  it("is borne by the customer where that is said: off the credit, and on it again once undone", async () => {
    const world = await demoWorld();
    const { body } = await hives(world);
    const order = await orderOf(world, [["HIVE-N", "1", "164.00"]]);
    const shipped = await world.ok(routes.shipOrder, {
      params: { id: order.id },
      body: shipmentOf([leaving(order.orderLines[0])]),
    });
    const piece = { orderLine: order.orderLines[0]?.id ?? null, item: body.item, quantity: "1" };
    const back = await world.ok(routes.newReturn, {
      body: { shipment: shipped.id, day: TODAY, reason: "Dropped", lines: [{ ...piece, credit: null }] },
    });
    const params = { id: back.id };
    const parts = body.parts.map((part, i) =>
      i === 0 ? { ...part, good: "0", damaged: part.expected } : part,
    );
    const returnLine = { id: back.id, line: back.returned[0]?.line ?? 0 };
    const made = await world.ok(routes.newTakeApart, {
      body: { ...body, store: "", returnLine, parts, charge: true },
    });
    expect(Number(made.charged)).toBeCloseTo(Number(made.damaged), 2);
    expect(Number(made.charged)).toBeGreaterThan(0);
    const sheet = await world.ok(routes.return, { params });
    expect(Number(sheet.charges)).toBe(Number(made.charged));
    expect(Number(sheet.due)).toBeCloseTo(Number(back.due) - Number(made.charged), 2);
    await world.ok(routes.undoTakeApart, { params: { id: made.id } });
    expect(await world.ok(routes.return, { params })).toMatchObject({ due: back.due, charges: "0.00" });
    expect(await world.audit()).toEqual([]);
  });
});

describe("a shortage that taking apart meets", () => {
  /** A small hive of five frames; nothing but complete hives holds frames. */
  async function smallHive(world: World) {
    const item = await newItem(world, "NUC-5", { kind: "built", cost: null });
    await writeList(world, item, [{ part: "FRM-A", quantity: "5" }]);
    return { demands: [{ item, quantity: "100" }] };
  }
  const ways = async (world: World, body: { demands: { item: number; quantity: string }[] }) =>
    (await world.ok(routes.takeApartWays, { body })).ways;

  it("says which free products hold the part, how many are needed, and what is lost by it", async () => {
    const world = await demoWorld();
    const question = await smallHive(world);
    const hive = await world.idOf("HIVE-N");
    await takeIn(world, hive, "20", { unitCost: "148.00" });
    const [way, ...more] = await ways(world, question);
    const { parts } = await world.ok(routes.cover, { body: question });
    const short = Number(parts.find(({ code }) => code === "FRM-A")?.shortNow);
    const units = Math.ceil(short / 20);
    expect(more).toEqual([]);
    expect(way).toMatchObject({
      part: { code: "FRM-A" },
      product: { code: "HIVE-N" },
      short: String(short),
      units: String(units),
      held: String(units * 20),
      at: { store: "Front store", bin: "", quantity: "20" },
    });
    // What it says is lost is what is lost.
    const proposal = await propose(world, { item: hive, quantity: String(units) });
    const body = {
      item: hive,
      quantity: String(units),
      store: "Front store",
      build: null,
      day: TODAY,
      parts: allGood(proposal),
    };
    expect((await world.ok(routes.previewTakeApart, { body })).workPutIn).toBe(way?.lost);
    const made = await world.ok(routes.newTakeApart, { body });
    expect(await ways(world, question)).toEqual([]);
    await world.ok(routes.undoTakeApart, { params: { id: made.id } });
    expect(await ways(world, question)).toHaveLength(1);
    expect(await world.audit()).toEqual([]);
  });

  it("leaves alone what is wanted itself, and says nothing where nothing is short", async () => {
    const world = await demoWorld();
    const hive = await world.idOf("HIVE-N");
    await takeIn(world, hive, "20", { unitCost: "148.00" });
    expect(await ways(world, { demands: [{ item: hive, quantity: "60" }] })).toEqual([]);
    const { demands } = await smallHive(world);
    const few = demands.map((demand) => ({ ...demand, quantity: "1" }));
    expect(await ways(world, { demands: few })).toEqual([]);
  });
});
