import { routes } from "@yosegi/contract";
import { decimal, sum } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { TODAY, type World } from "../testing/open.ts";
import { demoWorld, fieldsOf, finishOf, usedOf } from "../testing/world.ts";

const cover = (world: World, id: number, quantity: string) => world.check(id, quantity);

const LOT = { lot: "AF-02", expiry: "2027-09-30", bin: "04-C" };

describe("the check", () => {
  it("answers FEED-12 with the figures of its free stock", async () => {
    const world = await demoWorld();
    const answer = await cover(world, await world.idOf("FEED-12"), "40");
    expect(answer.demand).toMatchObject({ makesNow: "31", finishedFree: "0" });
    expect(
      answer.parts.map(
        (p) => `${p.code} ${p.need} ${p.onHand} ${p.expired} ${p.free} ${p.shortNow} ${p.reach}`,
      ),
    ).toEqual([
      "SYR-72 499.8 424.96 25 399.96 99.84 32",
      "THY-O 0.2 0.54 0 0.54 0 108",
      "CAN-12 40 48 0 48 0 48",
      "LBL-F 42 33 0 33 9 31",
      "SHEET-S 1 6 0 6 0 null",
    ]);
    const { work } = await world.ok(routes.expected, {
      params: { id: await world.idOf("FEED-12") },
      query: { quantity: "40" },
    });
    expect(work).toEqual([{ name: "Bench work", quantity: "60", unit: "min" }]);
  });
  it("sees less free once a build is queued, and names the build", async () => {
    const world = await demoWorld();
    const id = await world.idOf("FEED-12");
    await world.queued("FEED-12", "20");
    const answer = await cover(world, id, "20");
    expect(answer.demand.makesNow).toBe("11");
    const labels = answer.parts.find((p) => p.code === "LBL-F");
    const { reservedBy } = await world.ok(routes.item, { params: { id: await world.idOf("LBL-F") } });
    expect([labels?.reserved, labels?.free, reservedBy.map((r) => r.number)]).toEqual(["21", "12", ["B-1"]]);
  });
  it("shows free below zero as it is", async () => {
    const world = await demoWorld();
    await world.queued("FEED-12", "40");
    const labels = (await cover(world, await world.idOf("FEED-12"), "1")).parts.find(
      (p) => p.code === "LBL-F",
    );
    expect([labels?.free, labels?.shortNow, labels?.reach]).toEqual(["-9", "11", "0"]);
  });
  it("refuses what cannot be checked, at the field", async () => {
    const { call, idOf } = await demoWorld();
    const ask = async (code: string, quantity: string) =>
      fieldsOf(
        (await call(routes.cover, { body: { demands: [{ item: await idOf(code), quantity }] } })).error,
      );
    expect(await ask("BOX-D", "1")).toEqual(["demands.0.item not-wanted"]);
    expect(await ask("EXT-2R", "1")).toEqual(["demands.0.item no-list"]);
    expect(await ask("FEED-12", "1.5")).toEqual(["demands.0.quantity decimals"]);
    expect(await ask("FEED-12", "-1")).toEqual(["demands.0.quantity invalid-input"]);
  });
});

describe("a build from draft to stock", () => {
  it("finishes FEED-12 with 19 good of 20 for 411.76, to the last digit (docs/rules.md § 5)", async () => {
    const world = await demoWorld();
    const product = await world.idOf("FEED-12");
    const id = await world.queued("FEED-12", "20");
    const body = finishOf("19", {
      ...LOT,
      rejected: "1",
      reason: "canister split",
      lines: [usedOf(1, "251.4")],
    });
    const preview = await world.ok(routes.previewFinish, { params: { id }, body });
    expect(preview.cost).toEqual({
      parts: "392.7600",
      work: "16.0000",
      overhead: "3.0000",
      extra: "0.0000",
      subcontractor: "0.0000",
      total: "411.7600",
      each: "21.6716",
    });
    expect(preview.lines[0]).toMatchObject({
      planned: "249.9",
      used: "251.4",
      difference: "1.5",
      cost: "339.3900",
      differenceCost: "2.0250",
    });
    expect(preview.lines[0]?.taken.map((t) => `${t.lot} ${t.quantity}`)).toEqual([
      "HS-114 99.96",
      "HS-118 151.44",
    ]);

    const build = await world.ok(routes.finishBuild, { params: { id }, body });
    expect(build).toMatchObject({ stage: "finished", good: "19", rejected: "1" });
    const sheet = await world.ok(routes.item, { params: { id: product } });
    expect([sheet.onHand, sheet.value, sheet.unitCost]).toEqual(["19", "411.7600", "21.6716"]);
    expect(sheet.stockByBin).toMatchObject([
      { lot: "AF-02", expiry: "2027-09-30", bin: "04-C", quantity: "19" },
    ]);
    const { movements } = await world.ok(routes.movements, { query: { document: "B-1" } });
    const out = sum(movements.filter((m) => m.to === "").map((m) => decimal(m.value)));
    expect(out.toFixed(4)).toBe("392.7600");
    expect(movements.find((m) => m.item.code === "FEED-12")).toMatchObject({
      value: "411.7600",
      from: "",
      person: "Ines",
      day: TODAY,
    });
    const record = (await world.ok(routes.build, { params: { id } })).finishes[0];
    expect([record?.cost.total, record?.cost.each, record?.reason]).toEqual([
      "411.7600",
      "21.6716",
      "canister split",
    ]);
    expect(await world.audit()).toEqual([]);
  });
  it("finishes in parts: 11 and then 10 labels, and keeps the rest reserved in between", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "20");
    const half = finishOf("10", LOT);
    expect((await world.ok(routes.finishBuild, { params: { id }, body: half })).stage).toBe("queued");
    const between = await world.ok(routes.build, { params: { id } });
    expect(between.lines.map((l) => `${l.item.code} ${l.used} ${l.open}`)).toEqual([
      "SYR-72 124.95 124.95",
      "THY-O 0.05 0.05",
      "CAN-12 10 10",
      "LBL-F 11 10",
      "SHEET-S 1 0",
      "LAB-B 15 0",
    ]);
    expect((await world.ok(routes.finishBuild, { params: { id }, body: half })).stage).toBe("finished");
    const labels = (await world.ok(routes.build, { params: { id } })).lines.find(
      (l) => l.item.code === "LBL-F",
    );
    expect([labels?.used, labels?.open]).toEqual(["21", "0"]);
    expect(await world.audit()).toEqual([]);
  });
  it("keeps the lines it was queued with when the list changes; a draft follows the list in force", async () => {
    const world = await demoWorld();
    const product = await world.idOf("FEED-12");
    const queued = await world.queued("FEED-12", "8");
    const draft = (await world.ok(routes.newBuild, { body: { product, quantity: "8", due: null, note: "" } }))
      .id;
    const saved = await world.ok(routes.saveList, {
      params: { id: product },
      body: { makes: "1", usual: "1", lines: [{ part: "CAN-12", quantity: "1", unit: "pc" }] },
    });
    const lines = async (id: number) => (await world.ok(routes.build, { params: { id } })).lines.length;
    expect([await lines(queued), await lines(draft)]).toEqual([6, 6]);
    await world.ok(routes.lockRevision, {
      params: { id: saved.revision.id },
      body: { starts: "at once", startsOn: null, startsAfter: null, note: "" },
    });
    expect([await lines(queued), await lines(draft)]).toEqual([6, 1]);
  });
  it("gives reservations back when it is cancelled or its rest is given up", async () => {
    const world = await demoWorld();
    const reserved = async () =>
      (await world.ok(routes.item, { params: { id: await world.idOf("CAN-12") } })).reserved;
    const first = await world.queued("FEED-12", "20");
    const second = await world.queued("FEED-12", "10");
    expect(await reserved()).toBe("30");
    await world.ok(routes.cancelBuild, { params: { id: first } });
    expect(await reserved()).toBe("10");
    const body = finishOf("4", { ...LOT, closeRest: true });
    expect((await world.ok(routes.finishBuild, { params: { id: second }, body })).stage).toBe("finished");
    expect(await reserved()).toBe("0");
  });
  it("books all of a failed build as a loss: nothing arrives, the parts are gone", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "2");
    await world.ok(routes.finishBuild, {
      params: { id },
      body: finishOf("0", { rejected: "2", reason: "leaked" }),
    });
    const sheet = await world.ok(routes.item, { params: { id: await world.idOf("FEED-12") } });
    expect([sheet.onHand, sheet.value]).toEqual(["0", "0.0000"]);
    expect((await world.ok(routes.build, { params: { id } })).finishes[0]?.cost.each).toBeNull();
  });
  it("gives each serial number its share of the cost, exactly", async () => {
    const world = await demoWorld();
    const product = await world.idOf("HIVE-C");
    const id = await world.queued("HIVE-C", "2");
    await world.ok(routes.finishBuild, {
      params: { id },
      body: finishOf("2", { serials: ["H-0098", "H-0099"] }),
    });
    const { movements } = await world.ok(routes.movements, { query: { item: product } });
    const record = (await world.ok(routes.build, { params: { id } })).finishes[0];
    expect(movements.map((m) => m.serial).sort()).toEqual(["H-0098", "H-0099"]);
    expect(sum(movements.map((m) => decimal(m.value))).toFixed(4)).toBe(record?.cost.total);
    expect(record?.serials).toEqual(["H-0098", "H-0099"]);
  });
});

describe("a finish that is refused", () => {
  it("for want of parts: names them, tells the largest quantity, records nothing", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "40");
    const { status, error } = await world.call(routes.finishBuild, {
      params: { id },
      body: finishOf("40", LOT),
    });
    expect([status, error.code, error.largest]).toEqual([409, "not-enough", "31"]);
    expect(error.message).toBe("Not enough stock on record of Sugar syrup, Feed label.");
    expect(error.shorts?.map((s) => `${s.code} ${s.needed} ${s.there} ${s.short}`)).toEqual([
      "SYR-72 499.8 399.96 99.84",
      "LBL-F 42 33 9",
    ]);
    expect((await world.ok(routes.movements, { query: { document: "B-1" } })).total).toBe(0);
    expect((await world.ok(routes.build, { params: { id } })).stage).toBe("queued");
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("31", LOT) });
  });
  it.each([
    ["nothing made", "FEED-12", finishOf("0"), "good build-empty"],
    ["more than was planned", "FEED-12", finishOf("9", LOT), "good build-too-many"],
    ["half a unit", "FEED-12", finishOf("1.5", LOT), "good decimals"],
    [
      "a rejection without a reason",
      "FEED-12",
      finishOf("1", { ...LOT, rejected: "1" }),
      "reason reason-needed",
    ],
    ["a day to come", "FEED-12", finishOf("1", { ...LOT, day: "2026-11-24" }), "day day-future"],
    ["no lot", "FEED-12", finishOf("1"), "lot lot-needed"],
    ["an unknown store", "FEED-12", finishOf("1", { ...LOT, store: "Attic" }), "store store-unknown"],
    [
      "too many decimals used",
      "FEED-12",
      finishOf("1", { ...LOT, lines: [usedOf(1, "1.2345")] }),
      "lines.0.used decimals",
    ],
    [
      "a negative use",
      "FEED-12",
      finishOf("1", { ...LOT, lines: [usedOf(1, "-1")] }),
      "lines.0.used invalid-input",
    ],
    [
      "a line it does not have",
      "FEED-12",
      finishOf("1", { ...LOT, lines: [usedOf(9, "1")] }),
      "lines.0.line line-unknown",
    ],
    [
      "serials for what has none",
      "FEED-12",
      finishOf("1", { ...LOT, serials: ["H-1"] }),
      "serials serial-not-tracked",
    ],
    ["too few serials", "HIVE-C", finishOf("2", { serials: ["H-1"] }), "serials serial-count"],
    ["one serial twice", "HIVE-C", finishOf("2", { serials: ["H-1", "H-1"] }), "serials serial-repeated"],
    [
      "a lot for what has none",
      "HIVE-C",
      finishOf("1", { lot: "L-1", serials: ["H-1"] }),
      "lot lot-not-tracked",
    ],
  ])("for %s", async (_, code, body, field) => {
    const world = await demoWorld();
    const id = await world.queued(code, "2");
    expect(fieldsOf((await world.call(routes.finishBuild, { params: { id }, body })).error)).toEqual([field]);
    expect((await world.ok(routes.build, { params: { id } })).finishes).toEqual([]);
    expect(await world.audit()).toEqual([]);
  });
  it("for a serial number that is used, and a lot with another expiry", async () => {
    const world = await demoWorld();
    const hives = await world.queued("HIVE-C", "2");
    await world.ok(routes.finishBuild, { params: { id: hives }, body: finishOf("1", { serials: ["H-7"] }) });
    const again = await world.call(routes.finishBuild, {
      params: { id: hives },
      body: finishOf("1", { serials: ["H-7"] }),
    });
    expect([fieldsOf(again.error), again.error.message]).toEqual([
      ["serials serial-taken"],
      "Serial H-7 is already used: in Front store.",
    ]);
    const feed = await world.queued("FEED-12", "2");
    await world.ok(routes.finishBuild, { params: { id: feed }, body: finishOf("1", LOT) });
    const other = await world.call(routes.finishBuild, {
      params: { id: feed },
      body: finishOf("1", { ...LOT, expiry: "2027-12-31" }),
    });
    expect(fieldsOf(other.error)).toEqual(["expiry expiry-differs"]);
  });
  it("for its stage", async () => {
    const world = await demoWorld();
    const product = await world.idOf("FEED-12");
    const { id } = await world.ok(routes.newBuild, {
      body: { product, quantity: "2", due: "2026-12-01", note: "" },
    });
    const step = async (route: typeof routes.queueBuild | typeof routes.cancelBuild) =>
      (await world.call(route, { params: { id } })).status;
    expect(
      (await world.call(routes.finishBuild, { params: { id }, body: finishOf("1", LOT) })).error.message,
    ).toBe("B-1 is draft: it can't be finished now.");
    await world.ok(routes.changeBuild, {
      params: { id },
      body: { quantity: "3", due: null, note: "for Ashgrove" },
    });
    expect([await step(routes.queueBuild), await step(routes.queueBuild)]).toEqual([200, 409]);
    expect(
      (await world.call(routes.changeBuild, { params: { id }, body: { quantity: "4", due: null, note: "" } }))
        .status,
    ).toBe(409);
    expect([await step(routes.cancelBuild), await step(routes.cancelBuild)]).toEqual([200, 409]);
  });
});

describe("several at once", () => {
  it("two finishes of one build: one wins, the other is told why", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "20");
    const answers = await Promise.all([
      world.call(routes.finishBuild, { params: { id }, body: finishOf("20", LOT) }),
      world.call(routes.finishBuild, { params: { id }, body: finishOf("20", LOT) }),
    ]);
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409]);
    expect(answers.find((a) => a.status === 409)?.error.code).toBe("stage-wrong");
    expect((await world.ok(routes.item, { params: { id: await world.idOf("FEED-12") } })).onHand).toBe("20");
    expect(await world.audit()).toEqual([]);
  });
  it("ten builds that share scarce labels: never more used than there are", async () => {
    const world = await demoWorld();
    const ids = [];
    for (let i = 0; i < 10; i++) ids.push(await world.queued("FEED-12", "5"));
    const answers = await Promise.all(
      ids.map((id) => world.call(routes.finishBuild, { params: { id }, body: finishOf("5", LOT) })),
    );
    const labels = await world.ok(routes.item, { params: { id: await world.idOf("LBL-F") } });
    // 33 labels, 6 a build
    expect(answers.filter((a) => a.status === 200).length).toBe(5);
    expect(labels.onHand).toBe("3");
    expect(
      answers.filter((a) => a.status !== 200).every((a) => a.error.shorts?.some((s) => s.code === "LBL-F")),
    ).toBe(true);
    expect(await world.audit()).toEqual([]);
  });
});

describe("the list of builds", () => {
  it("puts what is late first and what has no day last, and counts both for the rail", async () => {
    const world = await demoWorld();
    const product = await world.idOf("FEED-12");
    const make = async (due: string | null) =>
      (await world.ok(routes.newBuild, { body: { product, quantity: "1", due, note: "" } })).id;
    await make(null);
    await make("2026-12-01");
    await make("2026-11-20");
    const today = await make(TODAY);
    const ended = await make("2026-11-01");
    await world.ok(routes.cancelBuild, { params: { id: ended } });
    const order = async () => (await world.ok(routes.builds, {})).builds.map((b) => b.number);
    expect(await order()).toEqual(["B-3", "B-4", "B-2", "B-1", "B-5"]);
    expect(await world.ok(routes.waiting, {})).toMatchObject({ builds: 4, overdue: 1, buying: 0 });
    await world.ok(routes.changeBuild, {
      params: { id: today },
      body: { quantity: "1", due: null, note: "" },
    });
    expect(await order()).toEqual(["B-3", "B-2", "B-1", "B-4", "B-5"]);
    const found = async (query: Record<string, string | number>) =>
      (await world.ok(routes.builds, { query })).builds.map((b) => b.number);
    expect(await found({ open: "true", until: "2026-11-30" })).toEqual(["B-3"]);
    expect(await found({ from: "2026-11-21", search: "feed b-" })).toEqual(["B-2"]);
    expect(await found({ open: "true", undated: "true" })).toEqual(["B-1", "B-4"]);
  });
  it("serves builds in turn and says what each waits for", async () => {
    const world = await demoWorld();
    await world.queued("FEED-12", "20");
    await world.queued("FEED-12", "20");
    const { builds } = await world.ok(routes.builds, { query: { stage: "queued" } });
    expect(builds.map((b) => `${b.number} ${b.waitsFor.join(", ")}`)).toEqual([
      "B-1 ",
      "B-2 Sugar syrup, Feed label",
    ]);
    expect(await world.ok(routes.waiting, {})).toMatchObject({ builds: 2, overdue: 0, buying: 0 });
  });
});
