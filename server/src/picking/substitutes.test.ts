import { routes } from "@yosegi/contract";
import { afterEach, describe, expect, it } from "vitest";
import { newItem, takeIn, writeList } from "../testing/companies.ts";
import { bareWorld, closeWorlds, fieldsOf, finishOf, TODAY, type World } from "../testing/world.ts";

afterEach(closeWorlds);

/** A build of 10 trays of two bars and a lid each; 1.5 slats do for a bar. 12 bars, 40 slats, 10 lids are there. */
async function traysToPick() {
  const world = await bareWorld();
  const [bar, slat, lid, tray] = [
    await newItem(world, "BAR"),
    await newItem(world, "SLAT"),
    await newItem(world, "LID"),
    await newItem(world, "TRAY", { kind: "built" }),
  ];
  await writeList(world, tray, [
    { part: "BAR", quantity: "2", substitutes: [{ item: "SLAT", quantity: "1.5" }] },
    { part: "LID", quantity: "1" },
  ]);
  await takeIn(world, bar, "12");
  await takeIn(world, slat, "40");
  await takeIn(world, lid, "10");
  const build = await world.queued("TRAY", "10");
  const round = await world.ok(routes.startRound, { body: { documents: [{ kind: "build", id: build }] } });
  const substitute = (quantity: string, item = slat, line = 1) =>
    world.call(routes.takeSubstitute, { params: { id: round.id }, body: { build, line, item, quantity } });
  return { world, bar, slat, lid, build, round, substitute };
}

const fetchAll = async (world: World, id: number) => {
  for (;;) {
    const { stops } = await world.ok(routes.pickRound, { params: { id } });
    const [stop] = stops;
    if (!stop) return;
    const { location, bin, item, lot, serial, quantity } = stop;
    const body = { location, bin, item: item.id, lot, serial, quantity, day: TODAY };
    await world.ok(routes.fetchPick, { params: { id }, body });
  }
};

const linesOf = async (world: World, build: number) => {
  const sheet = await world.ok(routes.build, { params: { id: build } });
  return sheet.lines.map(({ item, need, open, bench }) => `${item.code} ${need} ${open} ${bench}`);
};

describe("a substitute taken while picking", () => {
  it("takes the place of what is short, is fetched, planned and finished like any part", async () => {
    const { world, build, round, substitute } = await traysToPick();
    expect(round.missing).toMatchObject([{ item: { code: "BAR" }, quantity: "8" }]);
    expect(round.substitutable).toMatchObject([
      { item: { code: "BAR" }, open: "20", substitutes: [{ item: { code: "SLAT" }, free: "40" }] },
    ]);
    await fetchAll(world, round.id);
    const { answer } = await substitute("8");
    expect(answer.stops).toMatchObject([{ item: { code: "SLAT" }, quantity: "12" }]);
    expect(answer.missing).toEqual([]);
    expect(answer.substituted).toMatchObject([{ insteadOf: { code: "BAR" }, replaces: "8" }]);
    await fetchAll(world, round.id);
    expect(await linesOf(world, build)).toEqual(["BAR 12 0 12", "LID 10 0 10", "SLAT 12 0 12"]);
    const body = finishOf("10");
    const preview = await world.ok(routes.previewFinish, { params: { id: build }, body });
    expect(preview.lines.map(({ planned, used, difference }) => [planned, used, difference])).toEqual([
      ["12", "12", "0"],
      ["10", "10", "0"],
      ["12", "12", "0"],
    ]);
    await world.ok(routes.finishBuild, { params: { id: build }, body });
    expect(await world.audit()).toEqual([]);
  });

  it("is given back as long as none of it is handed out, and never after", async () => {
    const { world, build, round, substitute } = await traysToPick();
    const before = await linesOf(world, build);
    await substitute("5");
    // 1.5 × 5 and 1.5 × 3 are each raised to whole slats.
    await substitute("3");
    expect(await linesOf(world, build)).toEqual(["BAR 12 12 0", "LID 10 10 0", "SLAT 13 13 0"]);
    const back = { params: { id: round.id }, body: { build, line: 3 } };
    expect((await world.ok(routes.undoSubstitute, back)).substituted).toEqual([]);
    expect(await linesOf(world, build)).toEqual(before);
    expect(fieldsOf((await world.call(routes.undoSubstitute, back)).error)).toEqual(["line line-unknown"]);
    await substitute("20");
    expect(await linesOf(world, build)).toEqual(["BAR 0 0 0", "LID 10 10 0", "SLAT 30 30 0"]);
    await world.ok(routes.undoSubstitute, back);
    expect(await linesOf(world, build)).toEqual(before);
    await substitute("8");
    await fetchAll(world, round.id);
    expect(fieldsOf((await world.call(routes.undoSubstitute, back)).error)).toEqual([
      "line substitute-handed-out",
    ]);
  });

  it("is refused where the list allows none, for more than is open, of half a piece, and once some is finished", async () => {
    const { world, build, lid, slat, round, substitute } = await traysToPick();
    const codes = async (reply: ReturnType<typeof substitute>) => {
      const { error } = await reply;
      return error.fields.length > 0 ? fieldsOf(error).join() : error.code;
    };
    expect(await codes(substitute("1", lid))).toBe("item not-substitute");
    expect(await codes(substitute("21"))).toBe("quantity substitute-too-many");
    expect(await codes(substitute("0.5"))).toBe("quantity decimals");
    expect(await codes(substitute("1", slat, 9))).toBe("line line-unknown");
    const other = { build: build + 1, line: 1, item: slat, quantity: "1" };
    const refused = await world.call(routes.takeSubstitute, { params: { id: round.id }, body: other });
    expect(fieldsOf(refused.error)).toEqual(["build not-found"]);
    const body = finishOf("5");
    await world.ok(routes.finishBuild, { params: { id: build }, body });
    expect(await codes(substitute("1"))).toBe("substitute-at-finish");
    expect((await world.ok(routes.pickRound, { params: { id: round.id } })).substitutable).toEqual([]);
  });

  it("leaves nothing to be given back where the build was split since", async () => {
    const { world, build, round, substitute } = await traysToPick();
    await substitute("8");
    await world.ok(routes.splitBuild, { params: { id: build }, body: { quantity: "5" } });
    const now = await world.ok(routes.pickRound, { params: { id: round.id } });
    expect(now.substituted).toEqual([]);
    expect(await linesOf(world, build)).toEqual(["BAR 6 6 0", "LID 5 5 0", "SLAT 6 6 0"]);
    expect(await linesOf(world, build + 1)).toEqual(["BAR 6 6 0", "LID 5 5 0", "SLAT 6 6 0"]);
  });
});
