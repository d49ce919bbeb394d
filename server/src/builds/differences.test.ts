import { type FinishBody, PLAIN_LINE, routes } from "@yosegi/contract";
import { beforeEach, describe, expect, it } from "vitest";
import { takeIn } from "../testing/companies.ts";
import { TODAY, type World } from "../testing/open.ts";
import { demoWorld, fieldsOf, finishOf, usedOf } from "../testing/world.ts";

let world: World;

beforeEach(async () => {
  world = await demoWorld();
});

const LOT = { lot: "AF-02", expiry: "2027-09-30", bin: "04-C" };

const sheetOf = (id: number) => world.ok(routes.build, { params: { id } });

const preview = (id: number, body: FinishBody) => world.ok(routes.previewFinish, { params: { id }, body });

const finish = (id: number, body: FinishBody) => world.call(routes.finishBuild, { params: { id }, body });

const onHand = async (code: string) => {
  const { items } = await world.ok(routes.items, { query: { search: code } });
  return items.find((i) => i.code === code)?.onHand;
};

describe("what was really used", () => {
  it("may be scrapped, with a reason, and is told with the finish", async () => {
    const id = await world.queued("FEED-12", "8");
    const lines = (change: object) => ({ ...LOT, lines: [usedOf(4, "12", { scrapped: "3", ...change })] });
    expect(fieldsOf((await finish(id, finishOf("8", lines({})))).error)).toEqual([
      "lines.0.reason waste-reason",
    ]);
    const tooMuch = await finish(id, finishOf("8", lines({ scrapped: "13", reason: "torn" })));
    expect(fieldsOf(tooMuch.error)).toEqual(["lines.0.scrapped scrapped-too-much"]);
    expect((await finish(id, finishOf("8", lines({ reason: "torn" })))).status).toBe(200);
    const sheet = await sheetOf(id);
    expect(sheet.lines[3]).toMatchObject({ used: "12", scrapped: "3" });
    expect(sheet.finishes[0]?.lines[3]).toMatchObject({ used: "12", scrapped: "3", reason: "torn" });
  });
  it("may be a part that is not on the list, or a substitute for one that is", async () => {
    const id = await world.queued("FEED-12", "8");
    const [jar, label] = [await world.idOf("JAR-4"), await world.idOf("LBL-H")];
    const extra = [
      { ...PLAIN_LINE, item: jar, insteadOf: null, used: "2" },
      { ...PLAIN_LINE, item: label, insteadOf: 4, used: "9" },
    ];
    const body = finishOf("8", { ...LOT, extra, lines: [usedOf(4, "0")] });
    const planned = await preview(id, body);
    expect(planned.lines.slice(5).map((l) => [l.line, l.item, l.planned, l.used, l.difference])).toEqual([
      [6, expect.any(Number), "12", "12", "0"],
      [7, jar, "0", "2", "2"],
      [8, label, "0", "9", "9"],
    ]);
    const before = await onHand("LBL-H");
    expect((await finish(id, body)).status).toBe(200);
    const sheet = await sheetOf(id);
    expect(sheet.lines.filter((l) => l.added).map((l) => [l.item.code, l.used, l.insteadOf])).toEqual([
      ["JAR-4", "2", null],
      ["LBL-H", "9", 4],
    ]);
    expect(Number(before) - Number(await onHand("LBL-H"))).toBe(9);
    const kit = await finish(await world.queued("FEED-12", "1"), {
      ...finishOf("1", {
        ...LOT,
        extra: [{ ...PLAIN_LINE, item: await world.idOf("KIT-TOOL"), insteadOf: null, used: "1" }],
      }),
    });
    expect(fieldsOf(kit.error)).toEqual(["extra.0.item part-is-kit"]);
  });
  it("names parts without a cost, and parts that fall below their reorder level", async () => {
    const id = await world.queued("FEED-12", "20");
    const { low } = await preview(id, finishOf("20", LOT));
    expect(low.map((l) => `${l.name}: ${l.free} of ${l.level}`)).toEqual(["Feed label: 12 of 50"]);
    const tape = { code: "TAPE-1", name: "Tape", kind: "bought", unit: "pc" };
    const { id: item } = await world.ok(routes.newItem, { body: tape });
    await takeIn(world, item, "3", { unitCost: "0", store: "Yard", reason: "a gift" });
    const extra = [{ ...PLAIN_LINE, item, insteadOf: null, used: "1" }];
    const { noCost } = await preview(id, finishOf("20", { ...LOT, extra }));
    expect(noCost).toEqual(["Tape"]);
  });
  it("is work of several people, that adds up", async () => {
    const id = await world.queued("FEED-12", "8");
    const { lines } = await sheetOf(id);
    const work = lines.find((l) => l.service)?.line ?? 0;
    const told = [
      { line: work, person: 1, quantity: "5" },
      { line: work, person: 2, quantity: "9.5" },
    ];
    const differs = await finish(id, finishOf("8", { ...LOT, work: told, lines: [usedOf(work, "12")] }));
    expect(fieldsOf(differs.error)).toEqual(["work.0.quantity work-sum"]);
    const onPart = await finish(id, finishOf("8", { ...LOT, work: [{ line: 1, person: 1, quantity: "5" }] }));
    expect(fieldsOf(onPart.error)).toEqual(["work.0.line line-unknown"]);
    await finish(id, finishOf("8", { ...LOT, work: told }));
    const [done] = (await sheetOf(id)).finishes;
    expect(done?.work.map((w) => `${w.person} ${w.quantity}`)).toEqual(["Ines 5", "Tobias 9.5"]);
    expect(done?.lines.find((l) => l.line === work)?.used).toBe("14.5");
    expect(done?.cost.work).toBe("7.7333");
  });
});

describe("too little on the books", () => {
  it("is put right by a count, in the same posting as the finish", async () => {
    const id = await world.queued("FEED-12", "40");
    const body = finishOf("32", LOT);
    const short = await finish(id, body);
    expect([short.status, short.error.largest]).toEqual([409, "31"]);
    const { item } = (await sheetOf(id)).lines.find((l) => l.item.code === "LBL-F") ?? { item: { id: 0 } };
    const lying = (await world.ok(routes.item, { params: { id: item.id } })).stockByBin[0];
    const count = {
      item: item.id,
      store: lying?.store ?? "",
      bin: lying?.bin ?? "",
      newBin: false,
      lot: "",
      serial: "",
      there: "60",
      cost: null,
      reason: "a roll behind the rack",
    };
    expect((await preview(id, { ...body, counts: [count] })).shorts).toEqual([]);
    expect((await finish(id, { ...body, counts: [count] })).status).toBe(200);
    const [done] = (await sheetOf(id)).finishes;
    expect(done?.counts).toEqual([
      { item: "Feed label", unit: "pc", difference: "27", reason: "a roll behind the rack" },
    ]);
    const { movements } = await world.ok(routes.movements, { query: { document: "B-1", item: item.id } });
    expect(movements.map((m) => [m.from === "" ? "in" : "out", m.quantity, m.reason])).toEqual([
      ["out", "34", ""],
      ["in", "27", "a roll behind the rack"],
    ]);
    expect(await world.audit()).toEqual([]);
  });
  it("refuses a count that cannot be, at its field", async () => {
    const id = await world.queued("FEED-12", "8");
    const [syrup, jar] = [await world.idOf("SYR-72"), await world.idOf("JAR-4")];
    const plain = {
      store: "Yard",
      bin: "",
      newBin: false,
      lot: "",
      serial: "",
      there: "60",
      cost: null,
      reason: "found",
    };
    const refused = async (count: object) =>
      fieldsOf(
        (await finish(id, finishOf("8", { ...LOT, counts: [{ item: syrup, ...plain, ...count }] }))).error,
      );
    expect(await refused({})).toEqual(["counts.0.lot lot-needed"]);
    expect(await refused({ lot: "NONE-1" })).toEqual(["counts.0.lot lot-needed"]);
    expect(await refused({ lot: "HS-118", store: "Attic" })).toEqual(["counts.0.store store-unknown"]);
    expect(await refused({ lot: "HS-118", there: "1.2345" })).toEqual(["counts.0.there decimals"]);
    expect(await refused({ lot: "HS-118", reason: "" })).toEqual(["counts.0.reason invalid-input"]);
    expect(await refused({ item: jar })).toEqual(["counts.0.item count-not-part"]);
    expect(await refused({ item: await world.idOf("CAN-12"), lot: "X" })).toEqual([
      "counts.0.lot lot-not-tracked",
    ]);
  });
  it("counts less than the books say, too: what is not there cannot be used", async () => {
    const id = await world.queued("FEED-12", "8");
    const item = await world.idOf("CAN-12");
    const { stockByBin: lying } = await world.ok(routes.item, { params: { id: item } });
    const counts = lying.map(({ store, bin }) => ({
      item,
      store,
      bin,
      newBin: false,
      lot: "",
      serial: "",
      there: "3",
      cost: null,
      reason: "crushed",
    }));
    const refused = await finish(id, finishOf("8", { ...LOT, counts }));
    expect(refused.error.shorts?.map((s) => [s.code, s.there])).toEqual([
      ["CAN-12", String(3 * lying.length)],
    ]);
    expect(await onHand("CAN-12")).toBe("48");
  });
});

describe("serial numbers", () => {
  const hive = async () => {
    const frames = await world.queued("HIVE-N", "1");
    expect((await finish(frames, finishOf("1", { bin: "01-A" }))).status).toBe(200);
    const two = await world.queued("HIVE-N", "1");
    await finish(two, finishOf("1", { bin: "01-A" }));
    return world.queued("HIVE-C", "2");
  };
  it("say which part went into which unit, dealt out in turn or as the person says", async () => {
    const id = await hive();
    const scales = (await sheetOf(id)).lines.find((l) => l.item.code === "SCL-E");
    const [first = "", second = "", third = ""] = scales?.choices.map((c) => c.code) ?? [];
    const serials = ["H-0001", "H-0002"];
    const told = { serials, lines: [usedOf(scales?.line ?? 0, "2", { only: [third, first] })] };
    const part = { serial: "H-0001", item: scales?.item.id ?? 0, part: second };
    const wrong = await finish(id, finishOf("2", { ...told, serialParts: [part] }));
    expect(fieldsOf(wrong.error)).toEqual(["serialParts.0.part serial-part-unknown"]);
    const right = { ...part, serial: "H-0002", part: third };
    expect((await finish(id, finishOf("2", { ...told, serialParts: [right] }))).status).toBe(200);
    const [done] = (await sheetOf(id)).finishes;
    expect(done?.serialParts.map((s) => [s.serial, s.part])).toEqual([
      ["H-0001", first],
      ["H-0002", third],
    ]);
    expect((await sheetOf(id)).suggestedSerial).toBe("H-0003");
    expect((await world.ok(routes.usedSerials, { params: { id } })).serials).toEqual(serials);
  });
});

describe("taking a finish back", () => {
  it("mirrors the last part, or all of it, and reserves again what is to be taken", async () => {
    const id = await world.queued("FEED-12", "20");
    await world.ok(routes.handOut, { params: { id }, body: { day: TODAY } });
    const before = await sheetOf(id);
    const stock = async () =>
      (await world.ok(routes.items, {})).items.map((i) => `${i.code} ${i.onHand} ${i.reserved} ${i.value}`);
    const start = await stock();
    await finish(id, finishOf("10", LOT));
    const half = await stock();
    await finish(id, finishOf("9", { ...LOT, rejected: "1", reason: "split", lines: [usedOf(1, "126")] }));
    expect((await sheetOf(id)).stage).toBe("finished");
    const undo = (all: boolean) => world.ok(routes.undoFinish, { params: { id }, body: { all } });
    expect(await undo(false)).toMatchObject({ stage: "on the bench", good: "10", rejected: "0" });
    expect(await stock()).toEqual(half);
    await finish(id, finishOf("10", LOT));
    expect(await undo(true)).toMatchObject({ stage: "on the bench", good: "0" });
    expect(await stock()).toEqual(start);
    const after = await sheetOf(id);
    expect(after.lines).toEqual(before.lines);
    expect(after.finishes.every((f) => f.undone?.person === "Ines")).toBe(true);
    expect(await world.audit()).toEqual([]);
    const nothing = await world.call(routes.undoFinish, { params: { id }, body: {} });
    expect(nothing.error.code).toBe("nothing-made");
  });
  it("is refused where the units have moved on, and says where to", async () => {
    const hive = await world.queued("HIVE-N", "1");
    await finish(hive, finishOf("1", { bin: "01-A" }));
    const all = (await onHand("HIVE-N")) ?? "0";
    const serials = Array.from({ length: Number(all) }, (_, i) => `H-000${i}`);
    await finish(await world.queued("HIVE-C", all), finishOf(all, { serials }));
    const refused = await world.call(routes.undoFinish, { params: { id: hive }, body: {} });
    expect([refused.status, refused.error.code]).toEqual([409, "undo-blocked"]);
    expect(refused.error.message).toContain("B-2");
    expect((await sheetOf(hive)).stage).toBe("finished");
  });
  it("frees the serial numbers it gave", async () => {
    const hive = await world.queued("HIVE-N", "1");
    await finish(hive, finishOf("1", { bin: "01-A" }));
    const id = await world.queued("HIVE-C", "1");
    const body = finishOf("1", { serials: ["H-0001"] });
    await finish(id, body);
    expect(fieldsOf((await finish(await world.queued("HIVE-C", "1"), body)).error)).toContain(
      "serials serial-taken",
    );
    await world.ok(routes.undoFinish, { params: { id }, body: {} });
    expect((await sheetOf(id)).suggestedSerial).toBe("H-0002");
    expect((await finish(id, body)).status).toBe(200);
  });
});
