import { type ListDraftBody, type PartsListAnswer, routes } from "@yosegi/contract";
import { describe, expect, it } from "vitest";
import { handReceipt } from "../testing/companies.ts";
import type { World } from "../testing/open.ts";
import { demoWorld, fieldsOf, finishOf, statementsOf } from "../testing/world.ts";

type Line = Partial<ListDraftBody["lines"][number]> & { part: string; quantity: string; unit: string };

async function save(world: World, code: string, lines: Line[], more: object = {}): Promise<PartsListAnswer> {
  const body = { makes: "1", usual: "1", lines, ...more };
  return world.ok(routes.saveList, { params: { id: await world.idOf(code) }, body });
}

const lock = (world: World, id: number, change: object = {}) =>
  world.call(routes.lockRevision, {
    params: { id },
    body: { starts: "at once", startsOn: null, startsAfter: null, note: "", ...change },
  });

const sheet = async (world: World, code: string) =>
  world.ok(routes.item, { params: { id: await world.idOf(code) } });

const listsOf = async (world: World, code: string) =>
  (await world.ok(routes.lists, { params: { id: await world.idOf(code) } })).lists;

const inForce = async (world: World, code: string) => {
  const { list } = await sheet(world, code);
  return list && `${list.revision.number} ${list.revision.state} ${list.lines.map((l) => l.part.code)}`;
};

const box = { part: "BOX-D", quantity: "2", unit: "pc" };

const roof = { part: "ROOF-M", quantity: "1", unit: "pc" };

describe("a revision", () => {
  it("is a draft that is used and changed in place, until a build locks it", async () => {
    const world = await demoWorld();
    expect((await save(world, "HIVE-N", [box])).revision).toMatchObject({ number: 1, state: "draft" });
    await world.queued("HIVE-N", "1");
    const [main] = await listsOf(world, "HIVE-N");
    expect(main?.revisions[0]).toMatchObject({ number: 1, state: "locked", builds: 1, inForce: true });
    expect(main?.revisions[0]?.locked).toMatchObject({ person: "Ines", note: "Used by B-1" });
  });
  it("that is locked stays; editing it starts the next, which counts once it is locked", async () => {
    const world = await demoWorld();
    const first = await save(world, "HIVE-N", [box]);
    await lock(world, first.revision.id, { note: "checked by Ines" });
    expect((await save(world, "HIVE-N", [box])).revision.number).toBe(1);
    const second = await save(world, "HIVE-N", [box, roof]);
    expect(second.revision).toMatchObject({ number: 2, state: "draft", inForce: false });
    expect(await inForce(world, "HIVE-N")).toBe("1 locked BOX-D");
    // the open draft goes on being changed
    expect((await save(world, "HIVE-N", [roof])).revision.id).toBe(second.revision.id);
    expect((await lock(world, second.revision.id)).status).toBe(200);
    expect(await inForce(world, "HIVE-N")).toBe("2 locked ROOF-M");
    expect((await lock(world, second.revision.id)).error.code).toBe("revision-state");
  });
  it("has instructions of its own: a change of them alone is another revision, and builds keep theirs", async () => {
    const world = await demoWorld();
    const said = (instructions: string) => save(world, "HIVE-N", [box], { instructions });
    await lock(world, (await said("Glue, then pin.\nLet it dry overnight.")).revision.id);
    const id = await world.queued("HIVE-N", "1");
    const next = await said("Glue, then pin.");
    expect([next.revision.number, next.instructions]).toEqual([2, "Glue, then pin."]);
    expect((await said("Glue, then pin.")).revision.number).toBe(2);
    await lock(world, next.revision.id);
    const { instructions } = await world.ok(routes.build, { params: { id } });
    expect(instructions).toBe("Glue, then pin.\nLet it dry overnight.");
    const [main] = await listsOf(world, "HIVE-N");
    const first = main?.revisions.find((r) => r.number === 1)?.id ?? 0;
    const compared = await world.ok(routes.compareRevisions, {
      params: { id: next.revision.id },
      query: { with: first },
    });
    expect([compared.instructions, compared.head, compared.lines]).toEqual([true, [], []]);
    // Printed on the build sheet: the sheet with a page of them has a page more.
    const pages = async () =>
      (await world.app.inject({ url: `/api/build-sheets?ids=${id}` })).rawPayload
        .toString("latin1")
        .match(/\/Type \/Page\b/g)?.length;
    expect(await pages()).toBe(1);
    const long = await said("Press the boards.\n".repeat(120));
    await lock(world, long.revision.id);
    const other = await world.queued("HIVE-N", "1");
    const paper = await world.app.inject({ url: `/api/build-sheets?ids=${other}` });
    expect(paper.rawPayload.toString("latin1").match(/\/Type \/Page\b/g)?.length).toBeGreaterThan(2);
    expect(
      fieldsOf(
        (
          await world.call(routes.saveList, {
            params: { id: await world.idOf("HIVE-N") },
            body: { makes: "1", usual: "1", lines: [box], instructions: "x".repeat(4001) },
          })
        ).error,
      ),
    ).toEqual(["instructions invalid-input"]);
  });
  it("starts on its day", async () => {
    const world = await demoWorld();
    await lock(world, (await save(world, "HIVE-N", [box])).revision.id);
    const next = await save(world, "HIVE-N", [roof]);
    expect(fieldsOf((await lock(world, next.revision.id, { starts: "day" })).error)).toEqual([
      "startsOn start-day",
    ]);
    await lock(world, next.revision.id, { starts: "day", startsOn: "2026-11-24" });
    expect(await inForce(world, "HIVE-N")).toBe("1 locked BOX-D");
    world.store.now = () => new Date("2026-11-24T09:00:00Z");
    expect(await inForce(world, "HIVE-N")).toBe("2 locked ROOF-M");
  });
  it("starts when the old part has run out: when none of it is free any more", async () => {
    const world = await demoWorld();
    await lock(
      world,
      (await save(world, "HON-4", [{ part: "SCL-E", quantity: "1", unit: "pc" }])).revision.id,
    );
    const next = await save(world, "HON-4", [roof]);
    expect(fieldsOf((await lock(world, next.revision.id, { starts: "run out" })).error)).toEqual([
      "startsAfter start-part",
    ]);
    await lock(world, next.revision.id, { starts: "run out", startsAfter: await world.idOf("SCL-E") });
    expect(await inForce(world, "HON-4")).toBe("1 locked SCL-E");
    // two of three are reserved: one is still free
    const last = await world.queued("HON-4", "2");
    expect(await inForce(world, "HON-4")).toBe("1 locked SCL-E");
    await world.queued("HON-4", "1");
    expect(await inForce(world, "HON-4")).toBe("2 locked ROOF-M");
    await world.ok(routes.cancelBuild, { params: { id: last } });
    expect(await inForce(world, "HON-4")).toBe("1 locked SCL-E");
  });
  it("is retired where another is left to build by, and thrown away while it is a draft", async () => {
    const world = await demoWorld();
    const first = await save(world, "HIVE-N", [box]);
    await lock(world, first.revision.id);
    const retire = (id: number) => world.call(routes.retireRevision, { params: { id } });
    expect((await retire(first.revision.id)).error.code).toBe("revision-only");
    const second = await save(world, "HIVE-N", [roof]);
    const thrown = await world.ok(routes.removeRevision, { params: { id: second.revision.id } });
    expect(thrown.lists[0]?.revisions.map((r) => r.number)).toEqual([1]);
    const third = await save(world, "HIVE-N", [roof]);
    await lock(world, third.revision.id);
    expect((await retire(third.revision.id)).status).toBe(200);
    expect(await inForce(world, "HIVE-N")).toBe("1 locked BOX-D");
    const remove = await world.call(routes.removeRevision, { params: { id: first.revision.id } });
    expect(remove.error.message).toBe("Revision 1 is locked: it can't be removed.");
  });
  it("is compared with another: lines, the list itself, and the effect on cost", async () => {
    const world = await demoWorld();
    const first = await save(world, "HIVE-N", [box, roof]);
    await lock(world, first.revision.id);
    const second = await save(
      world,
      "HIVE-N",
      [
        { ...box, quantity: "3" },
        { ...box, part: "FLR-M" },
      ],
      {
        yield: "95",
      },
    );
    const found = await world.ok(routes.compareRevisions, {
      params: { id: second.revision.id },
      query: { with: first.revision.id },
    });
    expect(found.head).toEqual(["yield"]);
    expect(
      found.lines.map((l) => `${l.part.code} ${l.before?.quantity} ${l.after?.quantity} ${l.fields}`),
    ).toEqual(["BOX-D 2 3 quantity", "FLR-M undefined 2 ", "ROOF-M 1 undefined "]);
    expect([found.before.expected.each, found.after.expected.each]).toEqual(["37.4000", "113.2000"]);
    const strange = await world.call(routes.compareRevisions, {
      params: { id: second.revision.id },
      query: { with: (await sheet(world, "FRM-A")).list?.revision.id ?? 0 },
    });
    expect(strange.status).toBe(404);
  });
});

describe("alternates", () => {
  it("are chosen by a build, and can become the main list", async () => {
    const world = await demoWorld();
    const lists = await listsOf(world, "FEED-12");
    expect(lists.map((l) => [l.name, l.main])).toEqual([
      ["Main", true],
      ["Small batch", false],
    ]);
    const list = lists[1]?.id ?? 0;
    const product = await world.idOf("FEED-12");
    const body = { product, quantity: "4", due: null, note: "", list, options: [] };
    const { id } = await world.ok(routes.newBuild, { body });
    await world.ok(routes.queueBuild, { params: { id } });
    const build = await world.ok(routes.build, { params: { id } });
    expect([build.list?.name, build.list?.revision, build.lines[0]?.need]).toEqual([
      "Small batch",
      1,
      "50.47",
    ]);
    const changed = await world.ok(routes.changeList, {
      params: { id: list },
      body: { name: "By hand", main: true },
    });
    expect(changed.lists.map((l) => [l.name, l.main])).toEqual([
      ["By hand", true],
      ["Main", false],
    ]);
    const taken = await world.call(routes.changeList, {
      params: { id: list },
      body: { name: "main", main: true },
    });
    expect(fieldsOf(taken.error)).toEqual(["name name-taken"]);
    const long = await world.call(routes.changeList, {
      params: { id: list },
      body: { name: "n".repeat(61), main: true },
    });
    expect(fieldsOf(long.error)).toEqual(["name invalid-input"]);
  });
  it("begin as a copy of a revision, and go with their only draft", async () => {
    const world = await demoWorld();
    const from = (await sheet(world, "FRM-A")).list?.revision.id ?? 0;
    const params = { id: await world.idOf("FRM-A") };
    const made = await world.ok(routes.newList, {
      body: { product: params.id, name: "Stapled", copyOf: from },
    });
    expect([made.name, made.main, made.lines.length, made.lines[2]?.drawnAt]).toEqual([
      "Stapled",
      false,
      5,
      "finish",
    ]);
    const saved = await world.ok(routes.saveList, {
      params,
      body: { list: made.list, makes: "1", usual: "1", lines: [box] },
    });
    expect([saved.revision.id, saved.lines.length]).toEqual([made.revision.id, 1]);
    await world.ok(routes.removeRevision, { params: { id: made.revision.id } });
    expect((await listsOf(world, "FRM-A")).map((l) => l.name)).toEqual(["Main"]);
  });
  it("are copied to another product, but not to one that is among its own parts", async () => {
    const world = await demoWorld();
    const from = (await sheet(world, "HIVE-N")).list?.revision.id ?? 0;
    const other = { code: "HIVE-P", name: "Hive, painted", kind: "built", unit: "pc" };
    const { id } = await world.ok(routes.newItem, { body: other });
    const copy = (product: number) =>
      world.call(routes.newList, { body: { product, name: "Main", copyOf: from } });
    const { answer } = await copy(id);
    expect([answer.main, answer.lines.length, answer.revision.state]).toEqual([true, 6, "draft"]);
    expect((await copy(id)).error.code).toBe("name-taken");
    const frame = await world.call(routes.newList, {
      body: { product: await world.idOf("FRM-A"), name: "Wrong", copyOf: from },
    });
    expect(fieldsOf(frame.error)).toEqual(["product part-is-product"]);
    const scale = (await sheet(world, "HIVE-C")).list?.revision.id ?? 0;
    const circle = await world.call(routes.newList, {
      body: { product: await world.idOf("FRM-A"), name: "Wrong", copyOf: scale },
    });
    expect(fieldsOf(circle.error)).toEqual(["product parts-circle"]);
    expect(fieldsOf((await copy(await world.idOf("BOX-D"))).error)).toEqual(["product not-built"]);
  });
});

describe("lines in full", () => {
  it("keep where they are taken from, who does the work, shares, notes and substitutes", async () => {
    const world = await demoWorld();
    const saved = await save(world, "HIVE-N", [
      { ...box, store: "yard", note: "planed", share: "100", drawnAt: "finish" },
      { part: "LAB-B", quantity: "5", unit: "min", person: "tobias" },
      { ...roof, substitutes: [{ item: "crn-b", quantity: "2" }] },
    ]);
    expect(saved.lines[0]).toMatchObject({ store: "Yard", note: "planed", share: "100", drawnAt: "finish" });
    expect(saved.lines[1]).toMatchObject({ person: "Tobias" });
    expect(saved.lines[2]?.substitutes).toMatchObject([{ item: "CRN-B", quantity: "2", free: "47" }]);
  });
  it("take optional parts only where a build chooses them", async () => {
    const world = await demoWorld();
    await save(world, "HIVE-N", [box, { ...roof, optional: true }]);
    const product = await world.idOf("HIVE-N");
    const option = await world.idOf("ROOF-M");
    const built = async (options: number[]) => {
      const body = { product, quantity: "1", due: null, note: "", list: null, options };
      const { id } = await world.ok(routes.newBuild, { body });
      await world.ok(routes.queueBuild, { params: { id } });
      return (await world.ok(routes.build, { params: { id } })).lines.map((l) => l.item.code);
    };
    expect(await built([])).toEqual(["BOX-D"]);
    expect(await built([option])).toEqual(["BOX-D", "ROOF-M"]);
    const cover = await world.check(product, "1");
    expect(cover.parts.map((p) => p.code)).toEqual(["BOX-D"]);
    const body = {
      product,
      quantity: "1",
      due: null,
      note: "",
      list: null,
      options: [await world.idOf("BOX-D")],
    };
    expect(fieldsOf((await world.call(routes.newBuild, { body })).error)).toEqual(["options not-found"]);
  });
  it("with a yield start more than are wanted, and bear the extra cost in shares", async () => {
    const world = await demoWorld();
    await save(world, "HIVE-N", [box], { yield: "95", extra: "10", overhead: "1" });
    const cover = await world.check(await world.idOf("HIVE-N"), "20");
    // 22 are started for 20 good
    expect([cover.demand.started, cover.parts[0]?.need, cover.demand.makesNow]).toEqual(["22", "44", "27"]);
    const id = await world.queued("HIVE-N", "20");
    const build = await world.ok(routes.build, { params: { id } });
    expect([build.wanted, build.quantity, build.open]).toEqual(["20", "22", "22"]);
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("11") });
    await world.ok(routes.finishBuild, {
      params: { id },
      body: finishOf("9", { rejected: "2", reason: "split" }),
    });
    const { finishes } = await world.ok(routes.build, { params: { id } });
    expect(finishes.map((f) => [f.cost.extra, f.cost.overhead])).toEqual([
      ["5.0000", "11.0000"],
      ["5.0000", "11.0000"],
    ]);
    expect(await world.audit()).toEqual([]);
  });
  it("that are not counted cost and print, and never limit, reserve or leave stock", async () => {
    const world = await demoWorld();
    await world.ok(routes.newItem, {
      body: { code: "RAG-1", name: "Rags", kind: "bought", unit: "pc", cost: "0.25", notStockTracked: true },
    });
    await save(world, "HIVE-N", [box, { part: "RAG-1", quantity: "4", unit: "pc" }]);
    const cover = await world.check(await world.idOf("HIVE-N"), "3");
    expect(cover.parts[1]).toMatchObject({ need: "12", shortNow: "0", reach: null, stocked: false });
    const { cost } = await world.ok(routes.expected, {
      params: { id: await world.idOf("HIVE-N") },
      query: { quantity: "3" },
    });
    expect(cost.each).toBe("19.8000");
    const id = await world.queued("HIVE-N", "3");
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("3") });
    const { finishes } = await world.ok(routes.build, { params: { id } });
    expect(finishes[0]?.cost.parts).toBe("59.4000");
    const receive = await world.call(routes.receive, {
      body: handReceipt(await world.idOf("RAG-1"), "1"),
    });
    expect(fieldsOf(receive.error)).toEqual(["lines.0.item not-stocked"]);
    expect(await world.audit()).toEqual([]);
  });
  it("mention what goes in where it is not what comes out", async () => {
    const world = await demoWorld();
    await world.ok(routes.newItem, {
      body: { code: "SYR-M", name: "Mixed syrup", kind: "built", unit: "L" },
    });
    const mixed = await save(world, "SYR-M", [
      { part: "SYR-72", quantity: "1.2", unit: "L" },
      { part: "THY-O", quantity: "100", unit: "mL" },
    ]);
    expect(mixed.mixed).toBe("1.3");
  });
});

describe("replacing a part everywhere", () => {
  const replaced = async (world: World, per = "1", of = "1") => ({
    part: await world.idOf("CRN-B"),
    successor: await world.idOf("FLR-M"),
    per,
    of,
  });
  async function three(world: World) {
    await world.ok(routes.newItem, {
      body: { code: "NUC-1", name: "Nucleus box", kind: "built", unit: "pc" },
    });
    const crown = { part: "CRN-B", quantity: "1", unit: "pc" };
    await lock(world, (await save(world, "HIVE-N", [box, crown])).revision.id);
    await save(world, "NUC-1", [crown, { part: "CRN-B", quantity: "3", unit: "pc" }]);
    await save(world, "HON-4", [{ ...roof, substitutes: [{ item: "CRN-B", quantity: "2" }] }]);
    await world.ok(routes.saveKit, {
      params: { id: await world.idOf("KIT-TOOL") },
      body: {
        contentsShown: true,
        mayBeAddedTo: false,
        priceRule: "own",
        discount: "0",
        price: "20.00",
        contents: [
          {
            item: "CRN-B",
            quantity: "1",
            swap: "listed",
            swaps: ["ROOF-M"],
            quantityMayChange: false,
            mayBeLeftOut: false,
          },
        ],
      },
    });
  }
  it("shows each list and kit before and after, with the effect on cost", async () => {
    const world = await demoWorld();
    await three(world);
    const found = await world.ok(routes.previewReplacement, { body: await replaced(world, "2") });
    expect(
      found.lists.map((l) => `${l.product.code}: ${l.before} → ${l.after}, ${l.costBefore} → ${l.costAfter}`),
    ).toEqual([
      "HIVE-N: 1 pc CRN-B → 2 pc FLR-M, 24.9000 → 47.2000",
      "HON-4: 1 pc ROOF-M → 1 pc ROOF-M, 18.6000 → 18.6000",
      "NUC-1: 1 pc CRN-B,3 pc CRN-B → 2 pc FLR-M,6 pc FLR-M, 24.4000 → 113.6000",
    ]);
    expect(found.kits.map((k) => `${k.kit.code}: ${k.before} → ${k.after}`)).toEqual([
      "KIT-TOOL: 1 pc CRN-B → 2 pc FLR-M",
    ]);
    const half = await world.ok(routes.previewReplacement, { body: await replaced(world, "1", "2") });
    expect(half.lists[0]?.problem).toBe("The quantity of CRN-B would have to be rounded.");
  });
  it("makes new revisions in one step, and takes them back in one while nothing was built", async () => {
    const world = await demoWorld();
    await three(world);
    const uses = async (code: string) =>
      (await world.ok(routes.whereUsed, { params: { id: await world.idOf(code) } })).uses.map(
        (u) => `${u.what} ${u.code} ${u.quantity} ${u.detail}`,
      );
    const before = await uses("CRN-B");
    expect(before).toEqual([
      "kit KIT-TOOL 1 ",
      "list HIVE-N 1 revision 1",
      "list NUC-1 1 revision 1",
      "list NUC-1 3 revision 1",
      "substitute HON-4 2 instead of ROOF-M, revision 1",
    ]);
    const body = await replaced(world);
    const found = await world.ok(routes.previewReplacement, { body });
    const chosen = { lists: found.lists.map((l) => l.list), kits: found.kits.map((k) => k.kit.id) };
    const done = await world.ok(routes.replacePart, { body: { ...body, ...chosen } });
    expect([done.lists, done.kits, done.blocked]).toEqual([3, 1, null]);
    expect(await uses("CRN-B")).toEqual([]);
    expect(await inForce(world, "HIVE-N")).toBe("2 locked BOX-D,FLR-M");
    const undone = await world.ok(routes.undoReplacement, { params: { id: done.id } });
    expect(undone.undone?.person).toBe("Ines");
    expect(await uses("CRN-B")).toEqual(before);
    expect(await inForce(world, "NUC-1")).toBe("1 draft CRN-B,CRN-B");
    const twice = await world.call(routes.undoReplacement, { params: { id: done.id } });
    expect(twice.error.code).toBe("replace-undone");
  });
  it("takes as many statements for three lists as for two, done and undone", async () => {
    const counts: number[] = [];
    for (const most of [2, 3]) {
      const world = await demoWorld();
      await three(world);
      const body = await replaced(world);
      const found = await world.ok(routes.previewReplacement, { body });
      const lists = found.lists.map((l) => l.list).slice(0, most);
      const replace = async () => {
        const done = await world.ok(routes.replacePart, { body: { ...body, lists, kits: [] } });
        await world.ok(routes.undoReplacement, { params: { id: done.id } });
      };
      counts.push(await statementsOf(replace));
    }
    expect(counts[1]).toBe(counts[0]);
  });
  it("leaves out what is not chosen, and stays once something was built", async () => {
    const world = await demoWorld();
    await three(world);
    const body = await replaced(world);
    const { lists } = await world.ok(routes.previewReplacement, { body });
    const hive = lists.find((l) => l.product.code === "HIVE-N")?.list ?? 0;
    const done = await world.ok(routes.replacePart, { body: { ...body, lists: [hive], kits: [] } });
    expect(await inForce(world, "NUC-1")).toBe("1 draft CRN-B,CRN-B");
    await world.queued("HIVE-N", "1");
    const undo = await world.call(routes.undoReplacement, { params: { id: done.id } });
    expect(undo.error.message).toBe("This can no longer be undone: HIVE-N was built from it.");
    const again = await world.call(routes.replacePart, { body: { ...body, lists: [hive], kits: [] } });
    expect(again.error.code).toBe("replace-changed");
    const nothing = await world.call(routes.replacePart, { body: { ...body, lists: [], kits: [] } });
    expect(nothing.error.code).toBe("replace-nothing");
  });
  it("refuses a findCycle, a kit, and the part itself", async () => {
    const world = await demoWorld();
    const ask = async (part: string, successor: string) =>
      world.call(routes.previewReplacement, {
        body: { part: await world.idOf(part), successor: await world.idOf(successor), per: "1", of: "1" },
      });
    expect((await ask("FRM-D", "HIVE-N")).answer.lists[0]?.problem).toContain("FRM-A → HIVE-N → FRM-A");
    expect(fieldsOf((await ask("FRM-D", "KIT-TOOL")).error)).toEqual(["successor part-is-kit"]);
    expect(fieldsOf((await ask("FRM-D", "FRM-D")).error)).toEqual(["successor replace-same"]);
  });
});
