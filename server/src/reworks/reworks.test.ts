import { routes } from "@yosegi/contract";
import { afterEach, describe, expect, it } from "vitest";
import { read } from "../db/index.ts";
import { firmId } from "../testing/companies.ts";
import { books, finish, freeOf, good, part, step, twoExtractors, unit } from "../testing/reworking.ts";
import { closeWorlds, demoWorld, fieldsOf, TODAY } from "../testing/world.ts";

afterEach(closeWorlds);

describe("a rework of two extractors", () => {
  it("gives one back as EXT-2R at value in, parts and steps, and the other's good parts; each undone again", async () => {
    const world = await demoWorld();
    const begun = await twoExtractors(world);
    const before = await books(world);
    expect([begun.number, begun.state, begun.valueIn, await freeOf(world, "EXT-2")]).toEqual([
      "W-1",
      "waiting",
      "600.0000",
      "0",
    ]);
    const { id } = begun;
    await part(world, id, "BELT-X", "1", { unit: 1 });
    await part(world, id, "BRG-6", "2");
    const sheet = await step(world, id);
    expect([sheet.soFar, sheet.toCome, sheet.state]).toEqual(["50.9000", "0.0000", "to finish"]);
    expect(sheet.units.map(({ value }) => value)).toEqual(["337.8000", "313.1000"]);
    const [restored, belt, bearing] = [
      await world.idOf("EXT-2R"),
      await world.idOf("BELT-X"),
      await world.idOf("BRG-6"),
    ];
    const to = { store: "Yard", bin: "Y4-A" };
    const dates = { madeOn: "2026-01-05", expiry: "2031-01-05", makerNumber: "M-4711" };
    await world.ok(routes.changePiece, { body: { item: begun.item.id, serial: "EX-0077", ...dates } });
    const { id: field } = await world.ok(routes.newCustomField, { body: { name: "Gear", type: "text" } });
    const gear = { owner: "serial" as const, code: "EX-0077", values: [{ field, value: "steel" }] };
    await world.ok(routes.fillIn, { body: { ...gear, id: begun.item.id } });
    const done = await finish(world, id, [
      good(1, { item: restored, price: "359.00" }),
      {
        unit: 2,
        outcome: "parts",
        reason: "frame broken",
        parts: [
          { item: bearing, quantity: "2", ...to },
          { item: belt, quantity: "1", ...to },
        ],
      },
    ]);
    expect(done.status).toBe(200);
    const out = await world.ok(routes.rework, { params: { id } });
    expect(out.state).toBe("done");
    expect(out.units.map((own) => [own.outcome, own.item?.code, own.value, own.place])).toEqual([
      ["good", "EXT-2R", "337.8000", "Yard Y5-A"],
      ["parts", "EXT-2", "313.1000", ""],
    ]);
    expect(out.units[1]?.recovered.map(({ item, value }) => [item.code, value])).toEqual([
      ["BRG-6", "6.2000"],
      ["BELT-X", "4.7000"],
    ]);
    // Its number is kept, and it is one unit: EXT-2R is here, EXT-2 is another item now.
    const { answer: card } = await world.call(routes.piece, {
      query: { item: begun.item.id, serial: "EX-0077" },
    });
    expect(card?.gone).toBe("another item (W-1)");
    expect(await freeOf(world, "EXT-2R")).toBe("1");
    const whole = await world.ok(routes.piece, { query: { item: restored, serial: "EX-0077" } });
    expect(whole).toMatchObject({ ...dates, custom: [{ name: "Gear", value: "steel" }] });
    expect([whole.was?.code, whole.reworks.map(({ number }) => number), whole.gone]).toEqual([
      "EXT-2",
      ["W-1"],
      "",
    ]);
    const prices = await read(world.store, ({ sql }) =>
      sql.all("SELECT item_id AS item, serial, price FROM serial_price", {}),
    );
    expect(prices).toEqual([{ item: restored, serial: "EX-0077", price: 3_590_000 }]);
    const back = await world.ok(routes.trace, {
      query: { item: restored, serial: "EX-0077", direction: "backward" },
    });
    expect(back.pieces.map((own) => `${own.item.code} ${own.serial}`).sort()).toEqual([
      "BELT-X ",
      "BRG-6 ",
      "EXT-2 EX-0077",
      "EXT-2R EX-0077",
    ]);
    expect(await world.audit()).toEqual([]);
    // Each undone again: the finish, then the rework as a whole.
    await world.ok(routes.undoFinishRework, { params: { id } });
    expect(await freeOf(world, "EXT-2R")).toBe("0");
    for (const { id: own } of [...out.parts].reverse())
      await world.ok(routes.removeReworkPart, { params: { id, part: own } });
    expect(await books(world)).toEqual(before);
    await world.ok(routes.undoRework, { params: { id } });
    expect(await freeOf(world, "EXT-2")).toBe("2");
    expect(await world.audit()).toEqual([]);
  });

  it("that become an earlier item again are known as they were known last, and as before once that is undone", async () => {
    const world = await demoWorld();
    const [first, restored] = [await world.idOf("EXT-2"), await world.idOf("EXT-2R")];
    const { id: field } = await world.ok(routes.newCustomField, { body: { name: "Gear", type: "text" } });
    const describePiece = async (item: number, makerNumber: string, value: string) => {
      const facts = { madeOn: "2026-01-05", expiry: null, makerNumber };
      await world.ok(routes.changePiece, { body: { item, serial: "EX-0077", ...facts } });
      const filled = { owner: "serial" as const, id: item, code: "EX-0077", values: [{ field, value }] };
      await world.ok(routes.fillIn, { body: filled });
    };
    const into = async (item: number, to: number) => {
      const body = { item, day: TODAY, units: [unit("EX-0077")] };
      const { id } = await world.ok(routes.newRework, { body });
      expect((await finish(world, id, [good(1, { item: to })])).status).toBe(200);
      return id;
    };
    const knownOf = async (item: number) => {
      const { makerNumber, custom } = await world.ok(routes.piece, { query: { item, serial: "EX-0077" } });
      return [makerNumber, ...custom.map(({ value }) => value)];
    };
    await describePiece(first, "M-1", "steel");
    await into(first, restored);
    await describePiece(restored, "M-2", "");
    const back = await into(restored, first);
    expect(await knownOf(first)).toEqual(["M-2", ""]);
    await world.ok(routes.undoFinishRework, { params: { id: back } });
    expect(await knownOf(restored)).toEqual(["M-2", ""]);
    expect(await world.audit()).toEqual([]);
  });

  it("asks what becomes of all of them, with no step or part left over, and says what is wrong at its field", async () => {
    const world = await demoWorld();
    const { id } = await twoExtractors(world);
    const refused = async (units: object[]) => {
      const { error } = await finish(world, id, units);
      return [...fieldsOf(error), ...(error?.fields.length ? [] : [error?.code])];
    };
    expect(await refused([good(1)])).toEqual(["units rework-units-all"]);
    expect(await refused([good(1), good(9)])).toEqual(["units.1.unit rework-unit-unknown"]);
    expect(await refused([good(1), { unit: 2, outcome: "scrap" }])).toEqual([
      "units.1.reason rework-scrap-reason",
    ]);
    expect(await refused([good(1), { unit: 2, outcome: "parts", reason: "x" }])).toEqual([
      "units.1.parts rework-parts-none",
    ]);
    expect(await refused([good(1, { item: await world.idOf("HON-B") }), good(2)])).toEqual([
      "units.0.item rework-other-tracking",
    ]);
    const belt = { item: await world.idOf("BELT-X"), quantity: "1", store: "Yard", bin: "Y4-A" };
    expect(await refused([good(1), { ...good(2), parts: [belt] }])).toEqual([
      "units.1.parts rework-parts-only",
    ]);
    const set = await world.call(routes.addReworkPart, {
      params: { id },
      body: { item: await world.idOf("KIT-YARD"), quantity: "1", day: TODAY },
    });
    expect(fieldsOf(set.error)).toEqual(["item not-stocked"]);
    const both = await world.call(routes.addReworkStep, {
      params: { id },
      body: { what: "Straighten", person: 1, supplier: await firmId(world, "supplier", "CALD") },
    });
    expect(fieldsOf(both.error)).toEqual(["supplier step-two-do-it"]);
    const fine = await world.call(routes.priceRework, { params: { id }, body: { price: "359.123" } });
    expect(fieldsOf(fine.error)).toEqual(["price currency-decimals"]);
    const early = await world.call(routes.finishRework, {
      params: { id },
      body: { day: "2026-11-22", units: [good(1), good(2)] },
    });
    expect(fieldsOf(early.error)).toEqual(["day day-before-rework"]);
    // A price leaves what somebody else changed meanwhile, and a change leaves the price.
    const params = { id };
    await world.ok(routes.changeRework, { params, body: { due: TODAY, reason: "frame too", assigned: 1 } });
    await world.ok(routes.priceRework, { params, body: { price: "700.00" } });
    const changed = await world.ok(routes.changeRework, {
      params,
      body: { due: TODAY, reason: "drum only" },
    });
    expect([changed.due, changed.reason, changed.price]).toEqual([TODAY, "drum only", "700.00"]);
    expect((await world.ok(routes.priceRework, { params, body: { price: null } })).price).toBeNull();
    const planned = await part(world, id, "BELT-X", "1", { store: "", bin: "" });
    expect(planned.toCome).toBe("4.7000");
    expect(await refused([good(1), good(2)])).toEqual(["rework-parts-planned"]);
    await world.ok(routes.removeReworkPart, { params: { id, part: planned.parts[0]?.id ?? 0 } });
    await step(world, id, { state: "waiting" });
    expect(await refused([good(1), good(2)])).toEqual(["rework-steps-open"]);
    const tooMany = await world.call(routes.addReworkPart, {
      params: { id },
      body: { item: await world.idOf("BELT-X"), quantity: "99", store: "Yard", bin: "Y4-A", day: TODAY },
    });
    expect(fieldsOf(tooMany.error)).toEqual(["quantity stock-short-here"]);
    const nowhere = await world.call(routes.newRework, {
      body: { item: await world.idOf("EXT-2"), day: TODAY, units: [{ quantity: "1" }] },
    });
    expect(fieldsOf(nowhere.error)).toEqual(["units.0.store rework-place-needed"]);
    const again = await world.call(routes.newRework, {
      body: { item: await world.idOf("EXT-2"), day: TODAY, units: [unit("EX-0077")] },
    });
    expect(fieldsOf(again.error)).toEqual(["units.0.quantity stock-short-here"]);
  });

  it("has a lot that was for one unit in that one only, and a scrapped unit's in none", async () => {
    const world = await demoWorld();
    const { id } = await twoExtractors(world);
    const [honey, syrup] = [await world.idOf("HON-B"), await world.idOf("SYR-72")];
    await part(world, id, "HON-B", "0.1", { unit: 1, lot: "HB-22", bin: "Y2-A" });
    await part(world, id, "SYR-72", "0.1", { unit: 2, lot: "HS-118", bin: "Y1-A" });
    await finish(world, id, [good(1), { unit: 2, outcome: "scrap", reason: "frame broken" }]);
    const forward = async (item: number, lot: string) => {
      const { pieces } = await world.ok(routes.trace, { query: { item, lot } });
      return pieces.map((own) => `${own.item.code} ${own.serial || own.lot}`);
    };
    expect(await forward(honey, "HB-22")).toEqual(["HON-B HB-22", "EXT-2 EX-0077"]);
    expect(await forward(syrup, "HS-118")).toEqual(["SYR-72 HS-118"]);
  });

  it("tells who comes second that somebody changed it, or its step, meanwhile", async () => {
    const world = await demoWorld();
    const { id, version } = await twoExtractors(world);
    const params = { id };
    const { steps } = await step(world, id);
    const body = { reason: "drum and frame" };
    expect((await world.call(routes.changeRework, { params, body, version })).error?.code).toBe("stale");
    const now = (await world.ok(routes.rework, { params })).version;
    expect((await world.call(routes.changeRework, { params, body, version: now })).status).toBe(200);
    const of = { params: { id, step: steps[0]?.id ?? 0 }, version: steps[0]?.version ?? 0 };
    const what = "Straighten the drum";
    await world.ok(routes.changeReworkStep, { ...of, body: { what, planned: "44.00", state: "done" } });
    const late = await world.call(routes.changeReworkStep, { ...of, body: { what, state: "waiting" } });
    expect(late.error?.code).toBe("stale");
    await world.ok(routes.removeReworkStep, { params: of.params });
    const gone = await world.call(routes.changeReworkStep, { ...of, body: { what, state: "waiting" } });
    expect(gone.error?.code).toBe("step-removed");
    const marked = await world.call(routes.setReworkSteps, {
      body: { steps: [of.params.step], state: "done" },
    });
    expect(marked.error?.code).toBe("step-removed");
    // A part that came since is not in what is about to be finished.
    const seen = (await world.ok(routes.rework, { params })).version;
    await part(world, id, "BRG-6", "1");
    const out = { day: TODAY, units: [good(1), good(2)] };
    const finished = await world.call(routes.finishRework, { params, body: out, version: seen });
    expect(finished.error?.code).toBe("stale");
  });

  it("is finished by one press with all units good at their shares of its price; undone, they have the prices they had", async () => {
    const world = await demoWorld();
    const { id, item } = await twoExtractors(world);
    const own = (serial: string, price: string | null) =>
      world.ok(routes.setSerialPrice, { params: { id: item.id, serial }, body: { price } });
    const prices = () =>
      read(world.store, ({ sql }) => sql.all("SELECT serial, price FROM serial_price ORDER BY serial", {}));
    await own("EX-0077", "405.00");
    await world.ok(routes.priceRework, { params: { id }, body: { price: "700.00" } });
    const { steps } = await step(world, id, { state: "waiting" });
    const press = () => world.call(routes.finishReworkGood, { params: { id }, body: { day: TODAY } });
    expect((await press()).error?.code).toBe("rework-steps-open");
    await world.ok(routes.setReworkSteps, { body: { steps: [steps[0]?.id ?? 0], state: "done" } });
    const { answer } = await press();
    // 700.00 shared as 330 and 310: each has half of the step.
    expect(answer?.units.map((u) => [u.outcome, u.item?.code, u.price, u.place])).toEqual([
      ["good", "EXT-2", "360.9400", "Yard Y5-A"],
      ["good", "EXT-2", "339.0600", "Yard Y5-A"],
    ]);
    expect((await press()).error?.code).toBe("rework-finished");
    // What somebody sets after the finish is theirs, and stays.
    await own("EX-0078", "345.00");
    await world.ok(routes.undoFinishRework, { params: { id } });
    expect(await prices()).toEqual([
      { serial: "EX-0077", price: 4_050_000 },
      { serial: "EX-0078", price: 3_450_000 },
    ]);
    expect(await world.audit()).toEqual([]);
  });

  it("takes a substitute that the item's parts list allows for a planned part, and no other", async () => {
    const world = await demoWorld();
    const [hive, crown] = [await world.idOf("HIVE-N"), await world.idOf("CRN-B")];
    const line = {
      part: "ROOF-M",
      quantity: "1",
      unit: "pc",
      substitutes: [{ item: "CRN-B", quantity: "2" }],
    };
    await world.ok(routes.saveList, {
      params: { id: hive },
      body: { makes: "1", usual: "1", lines: [line] },
    });
    const { id } = await world.ok(routes.newRework, {
      body: { item: hive, day: TODAY, units: [{ quantity: "1", store: "Yard", bin: "Y6-A" }] },
    });
    const planned = await part(world, id, "ROOF-M", "3", { store: "", bin: "" });
    expect(planned.parts[0]?.substitutes.map((s) => [s.item.code, s.quantity, s.free])).toEqual([
      ["CRN-B", "6", "47"],
    ]);
    const params = { id, part: planned.parts[0]?.id ?? 0 };
    const place = { store: "Front store", bin: "08-A", day: TODAY };
    const not = await world.call(routes.takeReworkPart, { params, body: { ...place, substitute: hive } });
    expect(fieldsOf(not.error)).toEqual(["substitute not-substitute"]);
    const taken = await world.ok(routes.takeReworkPart, { params, body: { ...place, substitute: crown } });
    expect(taken.parts.map((p) => [p.item?.id, p.quantity, p.isTaken, p.substitutes.length])).toEqual([
      [crown, "6", true, 0],
    ]);
    expect([await freeOf(world, "CRN-B"), await freeOf(world, "ROOF-M")]).toEqual(["41", "20"]);
    expect(await world.audit()).toEqual([]);
  });

  it("keeps its parts and steps as a starting point for others", async () => {
    const world = await demoWorld();
    const { id } = await twoExtractors(world);
    await part(world, id, "BELT-X", "1");
    await step(world, id);
    await world.ok(routes.saveReworkPlan, { body: { name: "New belt", from: id } });
    const twice = await world.call(routes.saveReworkPlan, { body: { name: "New belt", from: id } });
    expect(fieldsOf(twice.error)).toEqual(["name plan-name-used"]);
    const { plans } = await world.ok(routes.reworkPlans, {});
    expect(plans).toMatchObject([{ name: "New belt", parts: 1, steps: 1 }]);
    await world.ok(routes.undoRework, { params: { id } });
    const item = await world.idOf("EXT-2");
    const body = { item, day: TODAY, plan: plans[0]?.id ?? 0, units: [unit("EX-0077")] };
    const next = await world.ok(routes.newRework, { body });
    expect(next.parts).toMatchObject([{ isTaken: false, value: "4.7000", quantity: "1" }]);
    // It was kept of two units: the step's cost is halved, and one belt for two stays one.
    expect(next.steps).toMatchObject([{ what: "Straighten the drum", planned: "20.00", state: "waiting" }]);
    const [planned] = next.parts;
    const place = { store: "Yard", bin: "Y4-A", day: TODAY };
    const params = { id: next.id, part: planned?.id ?? 0 };
    const taken = await world.ok(routes.takeReworkPart, { params, body: place });
    expect(taken.parts).toMatchObject([{ isTaken: true, from: "Yard Y4-A" }]);
    await world.ok(routes.setReworkSteps, { body: { steps: [next.steps[0]?.id ?? 0], state: "done" } });
    expect((await world.ok(routes.rework, { params: { id: next.id } })).state).toBe("to finish");
    await world.ok(routes.removeReworkPlan, { params: { id: plans[0]?.id ?? 0 } });
    expect((await world.ok(routes.reworkPlans, {})).plans).toEqual([]);
  });
});
