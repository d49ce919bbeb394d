import { routes } from "@yosegi/contract";
import { afterEach, describe, expect, it } from "vitest";
import { closeWorlds, demoWorld, fieldsOf, finishOf, TODAY, type World } from "../testing/world.ts";

afterEach(closeWorlds);

const handOut = (world: World, id: number, more: object = {}) =>
  world.call(routes.handOut, { params: { id }, body: { day: TODAY, ...more } });

const listed = async (world: World, id: number) =>
  (await world.ok(routes.handOuts, { params: { id } })).handOuts;

/** What is on the bench of each part that is drawn at pick. */
async function bench(world: World, id: number): Promise<Record<string, string>> {
  const { lines } = await world.ok(routes.build, { params: { id } });
  return Object.fromEntries(
    lines.filter((line) => line.bench !== "0").map((line) => [line.item.code, line.bench]),
  );
}

describe("parts are handed out", () => {
  it("for so many units, the rest later, each with its number; both together are what all take", async () => {
    const world = await demoWorld();
    // docs/rules.md § 2: 20 take 21 labels, the first 10 of them 11.
    const id = await world.queued("FEED-12", "20");
    expect((await handOut(world, id, { units: "10", note: "the first ten" })).status).toBe(200);
    expect(await bench(world, id)).toEqual({
      "SYR-72": "124.95",
      "THY-O": "0.05",
      "CAN-12": "10",
      "LBL-F": "11",
      "SHEET-S": "1",
    });
    const tooMany = await handOut(world, id, { units: "11" });
    expect(fieldsOf(tooMany.error)).toEqual(["units hand-out-too-many"]);
    const half = await handOut(world, id, { units: "0.5" });
    expect(fieldsOf(half.error)).toEqual(["units decimals"]);
    expect((await handOut(world, id, { units: "10" })).status).toBe(200);
    expect(await bench(world, id)).toEqual({
      "SYR-72": "249.9",
      "THY-O": "0.1",
      "CAN-12": "20",
      "LBL-F": "21",
      "SHEET-S": "1",
    });
    const all = await listed(world, id);
    expect(all.map(({ number, units, note, person }) => [number, units, note, person])).toEqual([
      ["B-1/2", "10", "", "Ines"],
      ["B-1/1", "10", "the first ten", "Ines"],
    ]);
    expect(await world.audit()).toEqual([]);
  });

  it("and undone one by one: its parts are reserved again, and the units can be handed out anew", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "20");
    await handOut(world, id, { units: "10" });
    await handOut(world, id, { units: "5" });
    const before = await bench(world, id);
    await world.ok(routes.undoHandOut, { params: { id, n: 2 } });
    expect((await bench(world, id))["CAN-12"]).toBe("10");
    const again = await world.call(routes.undoHandOut, { params: { id, n: 2 } });
    expect(fieldsOf(again.error)).toEqual(["n document-undone"]);
    await handOut(world, id, { units: "5" });
    expect(await bench(world, id)).toEqual(before);
    await world.ok(routes.undoHandOut, { params: { id, n: 3 } });
    await world.ok(routes.undoHandOut, { params: { id, n: 1 } });
    expect((await world.ok(routes.build, { params: { id } })).stage).toBe("queued");
    expect((await listed(world, id)).map(({ undone }) => undone)).toEqual([true, true, true]);
    expect(await world.audit()).toEqual([]);
  });

  it("anew for so many after all of them were returned to stock", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "20");
    await handOut(world, id, { units: "10" });
    await world.ok(routes.returnToStock, { params: { id }, body: { day: TODAY } });
    expect(await bench(world, id)).toEqual({});
    expect((await handOut(world, id, { units: "10" })).status).toBe(200);
    expect(await bench(world, id)).toMatchObject({ "CAN-12": "10", "LBL-F": "11" });
    await world.ok(routes.finishBuild, {
      params: { id },
      body: finishOf("5", { lot: "AF-1", expiry: "2027-09-30" }),
    });
    await handOut(world, id, { units: "10" });
    expect(await bench(world, id)).toMatchObject({ "CAN-12": "15" });
    // What a finish returns is handed out anew too.
    const rest = { lot: "AF-1", expiry: "2027-09-30", returnToStock: true };
    await world.ok(routes.finishBuild, { params: { id }, body: finishOf("5", rest) });
    expect(await bench(world, id)).toEqual({});
    await handOut(world, id, { units: "4" });
    expect(await bench(world, id)).toMatchObject({ "CAN-12": "4" });
    expect(await world.audit()).toEqual([]);
  });

  it("and not undone once some of them were used", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "20");
    await handOut(world, id);
    await world.ok(routes.finishBuild, {
      params: { id },
      body: finishOf("10", { lot: "AF-1", expiry: "2027-09-30" }),
    });
    const refused = await world.call(routes.undoHandOut, { params: { id, n: 1 } });
    expect(refused.error.code).toBe("undo-blocked");
    expect(await world.audit()).toEqual([]);
  });

  it("by a pick round as one hand-out, undone where it was fetched", async () => {
    const world = await demoWorld();
    const id = await world.queued("FEED-12", "8");
    const round = await world.ok(routes.startRound, { body: { documents: [{ kind: "build", id }] } });
    for (const stop of round.stops.slice(0, 2))
      await world.ok(routes.fetchPick, {
        params: { id: round.id },
        body: {
          location: stop.location,
          bin: stop.bin,
          item: stop.item.id,
          lot: stop.lot,
          serial: stop.serial,
          quantity: stop.quantity,
          day: TODAY,
        },
      });
    const [only, ...others] = await listed(world, id);
    expect([only?.number, only?.round?.number, only?.parts.length, others]).toEqual([
      "B-1/1",
      round.number,
      2,
      [],
    ]);
    const refused = await world.call(routes.undoHandOut, { params: { id, n: 1 } });
    expect(fieldsOf(refused.error)).toEqual(["n hand-out-of-round"]);
  });
});

it("a hand-out prints as a slip, as PDF and as a spreadsheet", async () => {
  const world = await demoWorld();
  const id = await world.queued("FEED-12", "8");
  await handOut(world, id, { note: "with the van" });
  const slip = (format: string) =>
    world.app.inject({ url: `/api/builds/${id}/hand-outs/1/slip?format=${format}` });
  const [pdf, xlsx] = [await slip("pdf"), await slip("xlsx")];
  expect([pdf.statusCode, pdf.headers["content-type"]]).toEqual([200, "application/pdf"]);
  expect(xlsx.headers["content-disposition"]).toContain("B-1-1.xlsx");
  expect((await world.app.inject({ url: `/api/builds/${id}/hand-outs/9/slip` })).statusCode).toBe(404);
});
