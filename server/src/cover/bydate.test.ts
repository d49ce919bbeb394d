import { readFile } from "node:fs/promises";
import { type CoverQuestion, type MixAnswer, routes } from "@yosegi/contract";
import { addDays } from "@yosegi/core";
import { describe, expect, it } from "vitest";
import { TODAY, type World } from "../testing/open.ts";
import { demoWorld, fieldsOf, finishOf } from "../testing/world.ts";

type Wanted = Partial<CoverQuestion["demands"][number]> & { item: number; quantity: string };

const question = (demands: Wanted[], more: object = {}) => ({ demands, ...more });

const ask = (world: World, demands: Wanted[], more: object = {}) =>
  world.ok(routes.cover, { body: question(demands, more) });

const partOf = (answer: Awaited<ReturnType<typeof ask>>, code: string) => {
  const part = answer.parts.find((p) => p.code === code);
  if (!part) throw new Error(`no part ${code}`);
  return part;
};

describe("the check of several products", () => {
  it("gives out shared parts in turn: what suffices for each alone and not for all is marked", async () => {
    const world = await demoWorld();
    const [hive, frame] = [await world.idOf("HIVE-N"), await world.idOf("FRM-A")];
    // 520 bars, 340 wax: 300 frames for the shelf, and 12 hives whose 240 frames are all ready (266)
    const answer = await ask(world, [
      { item: frame, quantity: "300", day: addDays(TODAY, 3) },
      { item: frame, quantity: "200", day: addDays(TODAY, 9) },
      { item: hive, quantity: "12" },
    ]);
    expect(answer.demands.map((d) => [d.makesNow, d.finish])).toEqual([
      ["340", addDays(TODAY, 1)],
      // 40 sheets of wax are left; 160 are ordered and take 6 days, and a day's work
      ["40", addDays(TODAY, 7)],
      // frames reach 13 hives, floors 17
      ["13", addDays(TODAY, 2)],
    ]);
    const wax = partOf(answer, "FND-D");
    expect(wax).toMatchObject({
      need: "500",
      free: "340",
      shortNow: "160",
      shortTogether: true,
      leftOver: "0",
    });
    expect(partOf(answer, "BOX-D")).toMatchObject({ leftOver: "35", shortTogether: false });
    expect(answer.orders.map((o) => [o.item.code, o.short, o.quantity, o.supplier?.name, o.orderBy])).toEqual(
      [["FND-D", "160", "160", "Lindwachs Works", addDays(TODAY, 9 - 1 - 6)]],
    );
    expect(answer.spending).toBe("152.00");
  });
  it("takes kits by their contents, and a short content that is built is built first", async () => {
    const world = await demoWorld();
    const answer = await ask(world, [
      { item: await world.idOf("KIT-YARD"), quantity: "5", day: addDays(TODAY, 14) },
    ]);
    expect(answer.demands[0]).toMatchObject({ makesNow: "2", finish: addDays(TODAY, 2) });
    // 2 hives are there; 3 are built first, of which frames and all else are there
    expect(answer.builds).toMatchObject([
      {
        item: { code: "HIVE-N" },
        quantity: "3",
        makesNow: "13",
        finish: addDays(TODAY, 2),
        needed: addDays(TODAY, 14),
      },
    ]);
    expect(answer.orders).toEqual([]);
  });
  it("does not let a build compete with what it has reserved itself", async () => {
    const world = await demoWorld();
    const feed = await world.idOf("FEED-12");
    const build = await world.queued("FEED-12", "25");
    expect((await ask(world, [{ item: feed, quantity: "25" }])).demands[0]?.makesNow).toBe("5");
    const { demands } = await world.ok(routes.openDemands, {});
    expect(demands).toMatchObject([{ build, number: "B-1", quantity: "25", stage: "queued" }]);
    const own = await ask(world, [{ item: feed, quantity: "25", build }]);
    expect(own.demands[0]).toMatchObject({ makesNow: "31", build: { number: "B-1" } });
    // It stays with the list it was queued with, and its set-up sheet is there once work has begun.
    const body = { makes: "8", usual: "20", lines: [{ part: "CAN-12", quantity: "8", unit: "pc" }] };
    await world.ok(routes.saveList, { params: { id: feed }, body });
    await world.ok(routes.finishBuild, {
      params: { id: build },
      body: finishOf("5", { lot: "AF-02", expiry: null }),
    });
    const rest = await ask(world, [{ item: feed, quantity: "20", build }]);
    expect(rest.parts.map((p) => p.code)).toEqual(["SYR-72", "THY-O", "CAN-12", "LBL-F"]);
  });
  it("looks at one store alone where it is asked to", async () => {
    const world = await demoWorld();
    const hive = await world.idOf("HIVE-N");
    const boxes = async (store: string) =>
      partOf(await ask(world, [{ item: hive, quantity: "10" }], { store }), "BOX-D").onHand;
    expect([await boxes(""), await boxes("Front store"), await boxes("Yard")]).toEqual(["59", "40", "19"]);
    const { error } = await world.call(routes.cover, {
      body: question([{ item: hive, quantity: "1" }], { store: "Attic" }),
    });
    expect(fieldsOf(error)).toEqual(["store store-unknown"]);
  });
  it("says which refusal belongs to which product", async () => {
    const world = await demoWorld();
    const [hive, box] = [await world.idOf("HIVE-N"), await world.idOf("BOX-D")];
    const fields = async (demands: Wanted[]) =>
      fieldsOf((await world.call(routes.cover, { body: question(demands) })).error);
    expect(
      await fields([
        { item: hive, quantity: "1" },
        { item: box, quantity: "1" },
      ]),
    ).toEqual(["demands.1.item not-wanted"]);
    expect(await fields([{ item: hive, quantity: "1.5" }])).toEqual(["demands.0.quantity decimals"]);
    expect(await fields([])).toEqual(["demands invalid-input"]);
    expect(
      await fields([{ item: hive, quantity: "1", instead: [{ part: box, by: hive, shortOnly: false }] }]),
    ).toEqual(["demands.0.instead not-substitute"]);
  });
});

/** Lets two honey labels take the place of a feed label, and adds lines to the list of the feed. */
async function withSubstitute(world: World, added: object[] = []) {
  const [feed, label, honeyLabel] = [
    await world.idOf("FEED-12"),
    await world.idOf("LBL-F"),
    await world.idOf("LBL-H"),
  ];
  const { list } = await world.ok(routes.item, { params: { id: feed } });
  const lines = (list?.lines ?? []).map((line) => ({
    part: line.part.code,
    quantity: line.quantity,
    unit: line.unit,
    waste: line.waste,
    oncePerBuild: line.oncePerBuild,
    substitutes: line.part.code === "LBL-F" ? [{ item: "LBL-H", quantity: "2" }] : [],
  }));
  const body = { makes: "8", usual: "20", overhead: "0.15", lines: [...lines, ...added] };
  await world.ok(routes.saveList, { params: { id: feed }, body });
  return { feed, label, honeyLabel };
}

describe("what-if", () => {
  it("supposes other stock, other days, another list and a substitute, and leaves the database as it was", async () => {
    const world = await demoWorld();
    const { feed, label, honeyLabel } = await withSubstitute(world);
    const { lists } = await world.ok(routes.lists, { params: { id: feed } });
    const small = lists.find((l) => l.name === "Small batch")?.id ?? 0;
    const onDisk = async () => {
      await world.store.db.query("PRAGMA wal_checkpoint(TRUNCATE)");
      return readFile(world.file);
    };
    const before = await onDisk();

    const item = feed;
    const plain = await ask(world, [{ item, quantity: "40" }]);
    expect([plain.demands[0]?.makesNow, plain.demands[0]?.substitutes]).toEqual([
      "31",
      [{ part: label, by: honeyLabel, name: "Honey label", chosen: false }],
    ]);
    const richer = await ask(world, [{ item, quantity: "40" }], { stock: [{ item: label, onHand: "60" }] });
    expect(richer.demands[0]?.makesNow).toBe("32");
    const other = await ask(world, [{ item, quantity: "40", list: small }]);
    // 49 L with 3 % for 4: 12.6175 a can
    expect(partOf(other, "SYR-72").need).toBe("504.7");
    const swapped = await ask(world, [
      { item, quantity: "40", instead: [{ part: label, by: honeyLabel, shortOnly: false }] },
    ]);
    // 40 with 5 % waste at two for one
    expect(partOf(swapped, "LBL-H")).toMatchObject({ need: "84", reach: "304" });
    expect(swapped.demands[0]?.makesNow).toBe("32");
    expect((await ask(world, [{ item, quantity: "40" }])).demands[0]).toEqual(plain.demands[0]);
    expect((await onDisk()).equals(before)).toBe(true);
  });
  it("takes a substitute only for what is short, and builds it so: with parts of its own", async () => {
    const world = await demoWorld();
    // A booklet goes in where somebody wants it.
    const {
      feed: item,
      label,
      honeyLabel,
    } = await withSubstitute(world, [{ part: "CARD-C", quantity: "1", unit: "pc", optional: true }]);
    const wanted = {
      item,
      quantity: "40",
      options: [await world.idOf("CARD-C")],
      instead: [{ part: label, by: honeyLabel, shortOnly: true }],
    };
    const answer = await ask(world, [wanted]);
    // 42 labels are needed and 33 are free: the other 9 at two for one
    expect(partOf(answer, "LBL-F")).toMatchObject({ need: "33", shortNow: "0", leftOver: "0" });
    expect(partOf(answer, "LBL-H").need).toBe("18");
    expect(partOf(answer, "CARD-C").need).toBe("5");
    expect(answer.demands[0]?.options.map((o) => `${o.name} ${o.chosen}`)).toEqual(["Care card true"]);
    const { builds } = await world.ok(routes.makeBuilds, { body: { demands: [wanted], queue: true } });
    const build = await world.ok(routes.build, { params: { id: builds[0]?.id ?? 0 } });
    expect(build.ownParts).toBe(true);
    expect(build.lines.map((l) => `${l.item.code} ${l.open} ${l.listed?.need ?? "-"}`)).toEqual([
      "SYR-72 499.8 499.8",
      "THY-O 0.2 0.2",
      "CAN-12 40 40",
      "LBL-F 33 42",
      "SHEET-S 1 1",
      "LAB-B 0 60",
      "CARD-C 5 5",
      "LBL-H 18 -",
    ]);
    const kit = { item: await world.idOf("KIT-TOOL"), quantity: "1", instead: wanted.instead };
    const refused = await world.call(routes.cover, { body: question([kit]) });
    expect(fieldsOf(refused.error)).toEqual(["demands.0.instead not-substitute"]);
    expect(await world.audit()).toEqual([]);
  });
  it("supposes that what comes comes on another day", async () => {
    const world = await demoWorld();
    const hive = await world.idOf("HIVE-N");
    const { firms } = await world.ok(routes.firms, { query: { kind: "supplier", search: "NORR" } });
    const draft = await world.ok(routes.newPurchase, {
      body: { supplier: firms[0]?.id ?? 0, lines: [{ item: await world.idOf("FLR-M"), quantity: "9" }] },
    });
    await world.ok(routes.sendPurchase, { params: { id: draft.id } });
    const now = partOf(await ask(world, [{ item: hive, quantity: "20" }]), "FLR-M");
    expect([now.day, now.incoming.map((i) => i.document)]).toEqual([addDays(TODAY, 9), ["P-1"]]);
    const key = now.incoming[0]?.key ?? "";
    const sooner = await ask(world, [{ item: hive, quantity: "20" }], {
      incoming: [{ key, day: addDays(TODAY, 2) }],
    });
    expect(partOf(sooner, "FLR-M").day).toBe(addDays(TODAY, 2));
  });
  it("is kept by name, written anew under the same name, and thrown away", async () => {
    const world = await demoWorld();
    const body = (name: string, quantity: string) => ({
      name,
      question: {
        demands: [
          { item: 38, quantity, day: null, list: null, options: [], priority: 1, build: null, instead: [] },
        ],
        store: "",
        stock: [],
        incoming: [],
      },
    });
    await world.ok(routes.saveCheck, { body: body("Spring", "40") });
    const kept = await world.ok(routes.saveCheck, { body: body("spring", "60") });
    const { checks } = await world.ok(routes.savedChecks, {});
    expect(checks.map((c) => [c.name, c.question.demands[0]?.quantity, c.person])).toEqual([
      ["spring", "60", "Ines"],
    ]);
    await world.ok(routes.removeCheck, { params: { id: kept.id } });
    expect((await world.ok(routes.savedChecks, {})).checks).toEqual([]);
  });
  it("is made real: builds, queued where asked, all or none", async () => {
    const world = await demoWorld();
    const [hive, extractor] = [await world.idOf("HIVE-N"), await world.idOf("EXT-2R")];
    const demands = [{ item: hive, quantity: "2", day: addDays(TODAY, 5) }];
    const { builds } = await world.ok(routes.makeBuilds, { body: { demands, queue: true } });
    expect(builds).toMatchObject([{ number: "B-1", stage: "queued", due: addDays(TODAY, 5) }]);
    const { error } = await world.call(routes.makeBuilds, {
      body: { demands: [...demands, { item: extractor, quantity: "1" }], queue: false },
    });
    expect(error.code).toBe("no-list");
    expect((await world.ok(routes.builds, {})).builds).toHaveLength(1);
  });
});

describe("solved the other way round", () => {
  it("says how many by a day, and how many for a sum", async () => {
    const world = await demoWorld();
    const body = question([{ item: await world.idOf("FEED-12"), quantity: "1" }]);
    const by = async (day: string) =>
      (await world.ok(routes.solveByDay, { body: { question: body, day } })).quantity;
    // labels stop it at 31 until an order comes in 5 days; everything can be there then, and a day's work
    expect([await by(TODAY), await by(addDays(TODAY, 1)), await by(addDays(TODAY, 6))]).toEqual([
      "0",
      "31",
      null,
    ]);
    const forSum = async (sum: string) =>
      (await world.ok(routes.solveBySum, { body: { question: body, sum } })).quantity;
    // 500 labels are 60.00; then syrup, at least 200 L for 270.00, and canisters beyond 48
    expect([await forSum("0"), await forSum("60"), await forSum("330")]).toEqual(["31", "32", "48"]);
  });
});

describe("stock day by day", () => {
  it("shows every receipt and need, and what is asked for", async () => {
    const world = await demoWorld();
    const { id } = await world.ok(routes.newBuild, {
      body: { product: await world.idOf("FEED-12"), quantity: "20", due: addDays(TODAY, 8), note: "" },
    });
    await world.ok(routes.queueBuild, { params: { id } });
    const line = await world.ok(routes.partTimeline, {
      body: {
        ...question([{ item: await world.idOf("FEED-12"), quantity: "16", day: addDays(TODAY, 12) }]),
        item: await world.idOf("LBL-F"),
      },
    });
    expect(line).toMatchObject({ level: "50", firstBelowLevel: TODAY, firstBelowZero: addDays(TODAY, 11) });
    expect(line.days.map((d) => [d.day, d.stock, d.events.map((e) => `${e.document} ${e.change}`)])).toEqual([
      [TODAY, "33", []],
      [addDays(TODAY, 7), "12", ["B-1 -21"]],
      [addDays(TODAY, 11), "-5", [" -17"]],
    ]);
  });
});

describe("the best mix", () => {
  const wanted = async (world: World) =>
    question([
      { item: await world.idOf("HIVE-N"), quantity: "20" },
      { item: await world.idOf("FRM-A"), quantity: "400" },
    ]);
  it("builds what brings most with the stock there is, and names what binds", async () => {
    const world = await demoWorld();
    const mix: MixAnswer = await world.ok(routes.mix, {
      body: { question: await wanted(world), by: "margin", job: "a" },
    });
    expect(mix.mix.map((m) => [m.item.code, m.quantity])).toEqual([
      ["HIVE-N", "13"],
      ["FRM-A", "340"],
    ]);
    expect(mix.binding.map((b) => b.item.code)).toEqual(["FRM-A", "FND-D"]);
    const ranked = await world.ok(routes.mix, {
      body: { question: await wanted(world), by: "priority", job: "b" },
    });
    expect(ranked.value).toBe("353");
  });
  it("can be stopped, and says so", async () => {
    const world = await demoWorld();
    const body = { question: await wanted(world), by: "margin" as const, job: "slow" };
    const running = world.call(routes.mix, { body });
    let cancelled = false;
    while (!cancelled) {
      ({ cancelled } = await world.ok(routes.cancelJob, { params: { job: "slow" }, body: {} }));
      if (!cancelled) await new Promise((resolve) => setTimeout(resolve, 2));
    }
    const { status, error } = await running;
    expect([status, error.code]).toEqual([409, "cancelled"]);
    expect((await world.ok(routes.jobProgress, { params: { job: "slow" } })).progress).toBeNull();
  });
});

describe("the check as a spreadsheet", () => {
  it("has a row a part, figures as figures", async () => {
    const world = await demoWorld();
    await world.queued("FEED-12", "40");
    const asked = encodeURIComponent(
      JSON.stringify(question([{ item: await world.idOf("FEED-12"), quantity: "1" }])),
    );
    const { payload } = await world.app.inject({ url: `/api/cover/export?format=csv&question=${asked}` });
    const labels = payload.split("\r\n").find((row) => row.startsWith("LBL-F"));
    expect(labels).toBe(
      `LBL-F,Feed label,pc,2,33,0,42,-9,0,11,11,0,${addDays(TODAY, 5)},Petal & Pane Packaging,`,
    );
    const bad = await world.app.inject({ url: "/api/cover/export?format=csv&question=%7Bno" });
    expect(bad.statusCode).toBe(400);
  });
});
