import { routes } from "@yosegi/contract";
import { addDays, isTracked, pieceKey, type TracePiece } from "@yosegi/core";
import { afterEach, describe, expect, it } from "vitest";
import { type Reading, read } from "../db/index.ts";
import { Chance } from "../testing/chance.ts";
import { doSomething, startHistory } from "../testing/history.ts";
import { leaving, shipmentOf } from "../testing/ordering.ts";
import { closeWorlds, demoWorld, fieldsOf, finishOf, TODAY, type World } from "../testing/world.ts";
import { type Direction, traceSteps } from "./trace.ts";

afterEach(closeWorlds);

const LATER = addDays(TODAY, 25);

interface Plain extends TracePiece {
  id: number;
  posting: number;
  purpose: string;
  quantity: number;
  leaves: number;
  arrives: number;
}

/** All movements that stand, and which numbered parts are in which units: what a plain walk goes through. */
async function ledgerOf(world: World) {
  return read(world.store, async ({ sql }) => ({
    moves: await sql.all<Plain>(
      `SELECT m.id, m.item_id AS item, m.lot, m.serial, m.posting_id AS posting, m.purpose, m.quantity,
              m.to_location IS NULL AS leaves, m.from_location IS NULL AS arrives
         FROM movement m JOIN posting o ON o.id = m.posting_id
        WHERE o.undoes IS NULL AND o.id NOT IN (SELECT undoes FROM posting WHERE undoes IS NOT NULL)`,
    ),
    units: await sql.all<{ posting: number; item: number; serial: string; part: number; partSerial: string }>(
      `SELECT f.posting_id AS posting, p.item_id AS item, p.serial, p.part_id AS part, p.part_serial AS partSerial
         FROM serial_part p JOIN finish f ON f.id = p.finish_id`,
    ),
    ...(await reworkedIn(sql)),
  }));
}

/** What went into reworks and came out of them, each with the unit it was for or came of; null: all of them. */
async function reworkedIn(sql: Reading["sql"]) {
  const rows = await sql.all<TracePiece & { posting: number; unit: number | null; goesIn: number }>(
    `SELECT r.out_posting_id AS posting, r.item_id AS item, u.lot, u.serial, u.unit, 1 AS goesIn
       FROM rework r JOIN rework_unit u ON u.rework_id = r.id
      UNION ALL SELECT r.out_posting_id, p.item_id, p.lot, p.serial, p.unit, 1
       FROM rework r JOIN rework_part p ON p.rework_id = r.id WHERE p.item_id IS NOT NULL
      UNION ALL SELECT r.out_posting_id, u.item_id, u.lot, u.serial, u.unit, 0
       FROM rework r JOIN rework_unit u ON u.rework_id = r.id WHERE u.outcome = 'good'
      UNION ALL SELECT r.out_posting_id, p.item_id, p.lot, p.serial, p.unit, 0
       FROM rework r JOIN rework_recovered p ON p.rework_id = r.id`,
  );
  return { reworked: rows.filter(({ posting }) => posting !== null) };
}

/** What a walk goes on to in the same posting. */
const GOES_IN = ["used", "taken apart", "converted"];
const COMES_OUT = ["built", "recovered", "converted"];

/** The same trace by a walk from movement to movement: every piece that is reached, and every movement by which one ends. */
function walk(
  { moves, units, reworked }: Awaited<ReturnType<typeof ledgerOf>>,
  start: TracePiece,
  direction: Direction,
): { pieces: string[]; ends: number[] } {
  const pieces = new Set([pieceKey(start)]);
  const ends = new Set<number>();
  const visit = (piece: TracePiece): void => {
    for (const move of moves) {
      if (pieceKey(move) !== pieceKey(piece) || move.quantity === 0) continue;
      if (direction === "forward" ? !move.leaves : !move.arrives) continue;
      const [near, far] = direction === "forward" ? [GOES_IN, COMES_OUT] : [COMES_OUT, GOES_IN];
      if (!near.includes(move.purpose)) {
        ends.add(move.id);
        continue;
      }
      for (const met of moves) {
        if (met.posting !== move.posting || !far.includes(met.purpose) || met.quantity === 0) continue;
        const [part, unit] = direction === "forward" ? [piece, met] : [met, piece];
        const known = units.filter(
          (own) => own.posting === move.posting && own.part === part.item && own.partSerial === part.serial,
        );
        if (direction === "forward" ? !met.arrives : !met.leaves) continue;
        if (part.serial !== "" && known.length > 0)
          if (!known.some((own) => own.item === unit.item && own.serial === unit.serial)) continue;
        // In a rework a piece goes on only to what became of a unit that it was, or was for.
        const [ins, outs] = [1, 0].map((side) =>
          reworked.filter(
            (own) =>
              own.posting === move.posting &&
              own.goesIn === side &&
              pieceKey(own) === pieceKey(side === 1 ? part : unit),
          ),
        );
        if (ins?.length && !ins.some((i) => outs?.some((o) => i.unit === null || i.unit === o.unit)))
          continue;
        if (pieces.has(pieceKey(met))) continue;
        pieces.add(pieceKey(met));
        if (isTracked(met)) visit(met);
      }
    }
  };
  visit(start);
  return { pieces: [...pieces].sort(), ends: [...ends].sort((a, b) => a - b) };
}

/** Why steps ended in the random work. */
const met = new Set<string | null>();

it.each([11, 13])(
  "is what a plain walk through the ledger finds, both ways, after random work (%i)",
  async (seed) => {
    const world = await demoWorld();
    world.store.now = () => new Date(`${LATER}T09:00:00Z`);
    // A few builds of which parts and products are tracked, whatever comes about by chance.
    for (let n = 0; n < 6; n++) {
      const id = await world.queued("FEED-12", "2");
      const body = finishOf("2", { lot: `T-${n}`, day: LATER });
      await world.ok(routes.finishBuild, { params: { id }, body });
    }
    const chance = new Chance(seed);
    const history = await startHistory(world, chance, () => LATER, 5);
    for (let n = 0; n < 260; n++) await doSomething(history);
    const ledger = await ledgerOf(world);
    const all = [...new Map(ledger.moves.filter(isTracked).map((move) => [pieceKey(move), move])).values()];
    expect(all.length).toBeGreaterThan(20);
    let through = 0;
    for (const { item, lot, serial } of all)
      for (const direction of ["forward", "backward"] as const) {
        const start = { item, lot, serial };
        const { pieces, steps } = await read(world.store, (ctx) => traceSteps(ctx, start, direction));
        const plain = walk(ledger, start, direction);
        expect(pieces.map(pieceKey).sort()).toEqual(plain.pieces);
        const ends = steps.filter(({ to }) => to === null).length;
        for (const { end } of steps) met.add(end);
        expect(ends).toBe(plain.ends.length);
        if (pieces.length > 1) through++;
      }
    expect(through).toBeGreaterThan(5);
  },
  120_000,
);

it("came by customers, returns and what goes on in that work", () => {
  expect([...met]).toEqual(expect.arrayContaining(["with a customer", "back from a customer", null]));
});

describe("who received anything with a lot in it", () => {
  it("is found through a build, with address and as messages; an undone shipment is none", async () => {
    const world = await demoWorld();
    const item = await world.idOf("FEED-12");
    const build = await world.queued("FEED-12", "8");
    await world.ok(routes.finishBuild, { params: { id: build }, body: finishOf("8", { lot: "AF-1" }) });
    const { firms } = await world.ok(routes.firms, { query: { kind: "customer" } });
    const order = await world.ok(routes.newOrder, {
      body: { customer: firms[0]?.id ?? 0, lines: [{ item, quantity: "3", price: "30.00" }] },
    });
    const sheet = await world.ok(routes.order, { params: { id: order.id } });
    const body = shipmentOf([leaving(sheet.orderLines[0], "3", { only: [{ item, codes: ["AF-1"] }] })]);
    const shipped = await world.ok(routes.shipOrder, { params: { id: order.id }, body });
    // Backward, to the syrup that is in it and its supplier or opening stock.
    const back = await world.ok(routes.trace, { query: { item, lot: "AF-1", direction: "backward" } });
    const syrup = back.pieces.find((piece) => piece.item.code === "SYR-72");
    expect(syrup?.lot).not.toBe("");
    expect(back.steps.filter(({ end }) => end === "opening stock").length).toBeGreaterThan(0);
    // What is not tracked ends it, and the answer says so.
    expect(
      back.steps.some(({ to, end }) => back.pieces[to ?? 0]?.item.code === "CAN-12" && end === "not tracked"),
    ).toBe(true);
    const query = { item: syrup?.item.id ?? 0, lot: syrup?.lot ?? "" };
    const { steps } = await world.ok(routes.trace, { query });
    const ends = steps.filter(({ end }) => end === "with a customer");
    expect(ends).toMatchObject([
      {
        quantity: "3",
        firm: { id: firms[0]?.id },
        order: { number: order.number },
        shipment: { number: shipped.number },
      },
    ]);
    expect((await world.ok(routes.traceMessages, { body: query })).messages).toBe(1);
    const { messages } = await world.ok(routes.outbox, {});
    expect(messages[0]?.subject).toContain("About what you received");
    await world.ok(routes.undoShipment, { params: { id: shipped.id }, body: { finishes: false } });
    const after = await world.ok(routes.trace, { query });
    expect(after.steps.some(({ end }) => end === "with a customer")).toBe(false);
    // Of a lot that never was, nobody can say who received it.
    const nowhere = { item, lot: "AF-01" };
    for (const refused of [
      await world.call(routes.trace, { query: nowhere }),
      await world.call(routes.traceMessages, { body: nowhere }),
    ])
      expect(fieldsOf(refused.error)).toEqual(["lot not-found"]);
  });
});
