import type { Trace, TraceStep } from "@yosegi/contract";
import {
  endOf,
  isTracked,
  type Purpose,
  pieceKey,
  quantityFromScaled,
  THROUGH,
  type TraceEnd,
  type TracePiece,
  type UnitPart,
  wentInto,
} from "@yosegi/core";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { knownOf } from "../pieces/index.ts";

export type Direction = "forward" | "backward";

/** A movement by which a piece left stock, or came into it. */
interface MoveRow extends TracePiece {
  posting: number;
  purpose: Purpose;
  quantity: number;
  document: string;
  day: string;
  moment: string;
  person: string;
  place: string;
  source: string;
  source_id: number;
}

/** What stands at the other side of a finish or a take-apart. */
interface OtherRow extends TracePiece {
  posting: number;
}

interface Step {
  from: TracePiece;
  move: MoveRow;
  to: TracePiece | null;
  end: TraceEnd | null;
}

/**
 * Follows a lot or serial number through any number of builds (docs/rules.md § 14), level by level: each level is a few questions,
 * however many pieces it has. A piece that was met before is not followed again.
 */
export async function traceSteps(
  ctx: Reading,
  start: TracePiece,
  direction: Direction,
): Promise<{ pieces: TracePiece[]; steps: Step[] }> {
  const pieces = new Map([[pieceKey(start), start]]);
  const steps: Step[] = [];
  let level = [start];
  while (level.length > 0) {
    const moves = await movesOf(ctx, level, direction);
    const through = moves.filter(({ purpose }) => endOf(purpose) === null);
    const postings = [...new Set(through.map((move) => move.posting))];
    const others = groupBy(await othersOf(ctx, postings, direction), (row) => row.posting);
    const known = await unitParts(ctx, postings);
    const next: TracePiece[] = [];
    for (const move of moves) {
      const from = { item: move.item, lot: move.lot, serial: move.serial };
      const end = endOf(move.purpose);
      if (end !== null) {
        steps.push({ from, move, to: null, end });
        continue;
      }
      for (const { posting, ...to } of others.get(move.posting) ?? []) {
        const [part, unit] = direction === "forward" ? [from, to] : [to, from];
        if (!wentInto(part, unit, posting, known)) continue;
        const key = pieceKey(to);
        const seen = pieces.has(key);
        if (!seen) pieces.set(key, to);
        const tracked = isTracked(to);
        steps.push({ from, move, to, end: !tracked ? "not tracked" : seen ? "seen already" : null });
        if (tracked && !seen) next.push(to);
      }
    }
    level = next;
  }
  return { pieces: [...pieces.values()], steps };
}

/** How pieces left stock for good, or came into it, as far as that was not undone. */
async function movesOf(ctx: Reading, level: readonly TracePiece[], direction: Direction): Promise<MoveRow[]> {
  const [away, side] = direction === "forward" ? ["to", "from"] : ["from", "to"];
  const select = (match: string) => `
    SELECT m.item_id AS item, m.lot, m.serial, m.posting_id AS posting, m.purpose, m.quantity, o.document, o.day, o.moment, n.name AS person,
           COALESCE(p.name || ' ' || m.${side}_bin, '') AS place, m.source, m.source_id, m.id
      FROM json_each($level) k JOIN stock_movement m ON m.item_id = k.value ->> 'item' AND ${match}
      JOIN posting_head o ON o.id = m.posting_id AND o.undoes IS NULL JOIN person_name n ON n.id = o.person_id
      LEFT JOIN location_head p ON p.id = m.${side}_location
     WHERE m.${away}_location IS NULL AND m.quantity > 0 AND NOT EXISTS (SELECT 1 FROM posting_head u WHERE u.undoes = o.id)`;
  // Each half has an index of its own.
  return ctx.sql.all<MoveRow>(
    `${select("m.serial <> '' AND m.serial = k.value ->> 'serial'")}
      UNION ALL ${select("m.lot <> '' AND m.lot = k.value ->> 'lot' AND k.value ->> 'serial' = ''")} ORDER BY m.id`,
    { level: asJson(level) },
  );
}

/** What finishes made or used, take-aparts took out or apart, and reworks changed, each piece once. */
async function othersOf(
  ctx: Reading,
  postings: readonly number[],
  direction: Direction,
): Promise<OtherRow[]> {
  return ctx.sql.all<OtherRow>(
    `SELECT DISTINCT m.posting_id AS posting, m.item_id AS item, m.lot, m.serial
       FROM json_each($postings) k JOIN stock_movement m ON m.posting_id = k.value
      WHERE m.purpose IN (SELECT value FROM json_each($purposes)) AND m.quantity > 0
        AND ${direction === "forward" ? "m.from_location" : "m.to_location"} IS NULL ORDER BY m.posting_id, m.item_id, m.lot, m.serial`,
    { postings: asJson(postings), purposes: asJson(THROUGH[direction]) },
  );
}

async function unitParts(ctx: Reading, postings: readonly number[]): Promise<UnitPart[]> {
  const rows = await ctx.sql.all<
    Omit<UnitPart, "part"> & { part: number; partLot: string; partSerial: string }
  >(
    `SELECT posting_id AS posting, item_id AS item, '' AS lot, serial, part_id AS part, '' AS partLot, part_serial AS partSerial
       FROM unit_part WHERE posting_id IN (SELECT value FROM json_each($postings))
      UNION ALL
     SELECT posting_id, item_id, lot, serial, part_id, part_lot, part_serial
       FROM rework_unit_part WHERE posting_id IN (SELECT value FROM json_each($postings))`,
    { postings: asJson(postings) },
  );
  return rows.map(({ part, partLot, partSerial, ...unit }) => ({
    ...unit,
    part: { item: part, lot: partLot, serial: partSerial },
  }));
}

/** The trace of a lot or serial number, with the documents and firms of each step. */
export async function trace(ctx: Reading, start: TracePiece, direction: Direction): Promise<Trace> {
  // A number that was mistyped is no answer that nobody received it.
  await knownOf(ctx, start);
  const { pieces, steps } = await traceSteps(ctx, start, direction);
  const brief = await briefs(
    ctx,
    pieces.map((piece) => piece.item),
  );
  const place = new Map(pieces.map((piece, i) => [pieceKey(piece), i]));
  const documents = await documentsOf(
    ctx,
    steps.map(({ move }) => move),
  );
  return {
    pieces: pieces.map(({ item, lot, serial }, key) => ({ key, item: brief(item), lot, serial })),
    steps: steps.map(({ from, move, to, end }) => ({
      from: place.get(pieceKey(from)) ?? 0,
      to: to && (place.get(pieceKey(to)) ?? null),
      end,
      document: move.document,
      quantity: quantityFromScaled(move.quantity).toFixed(),
      day: move.day,
      moment: move.moment,
      person: move.person,
      place: move.place.trim(),
      ...documents(move),
    })),
  };
}

type Documents = Pick<
  TraceStep,
  "build" | "order" | "shipment" | "purchase" | "return" | "takeApart" | "rework" | "firm"
>;

interface DocumentRow {
  id: number;
  number: string;
  firm: number | null;
  code: string | null;
  name: string | null;
}

/** The documents that movements belong to, and the firms of these. */
async function documentsOf(ctx: Reading, moves: readonly MoveRow[]): Promise<(move: MoveRow) => Documents> {
  const ids = (source: string) => ({
    ids: asJson(new Set(moves.filter((move) => move.source === source).map((move) => move.source_id))),
  });
  const among = "IN (SELECT value FROM json_each($ids))";
  const builds = await ctx.sql.all<DocumentRow>(
    `SELECT id, number, NULL AS firm FROM build_head WHERE id ${among}`,
    ids("build"),
  );
  const orders = await ctx.sql.all<DocumentRow>(
    `SELECT o.id, o.number, f.id AS firm, f.code, f.name FROM order_head o JOIN firm_head f ON f.id = o.customer_id WHERE o.id ${among}`,
    ids("order"),
  );
  const purchases = await ctx.sql.all<DocumentRow>(
    `SELECT p.id, p.number, f.id AS firm, f.code, f.name FROM purchase_head p JOIN firm_head f ON f.id = p.supplier_id WHERE p.id ${among}`,
    ids("purchase"),
  );
  const returns = await ctx.sql.all<DocumentRow>(
    `SELECT r.id, r.number, f.id AS firm, f.code, f.name FROM return_head r JOIN firm_head f ON f.id = r.customer_id WHERE r.id ${among}`,
    ids("return"),
  );
  const sentBack = await ctx.sql.all<DocumentRow>(
    `SELECT r.id, r.number, f.id AS firm, f.code, f.name FROM supplier_return_head r JOIN firm_head f ON f.id = r.supplier_id WHERE r.id ${among}`,
    ids("supplier-return"),
  );
  const takeAparts = await ctx.sql.all<DocumentRow>(
    `SELECT id, number, NULL AS firm FROM take_apart_head WHERE id ${among}`,
    ids("take-apart"),
  );
  const reworks = await ctx.sql.all<DocumentRow>(
    `SELECT r.id, r.number, f.id AS firm, f.code, f.name FROM rework_head r LEFT JOIN firm_head f ON f.id = r.customer_id WHERE r.id ${among}`,
    ids("rework"),
  );
  const shipments = await ctx.sql.all<{ id: number; number: string; posting: number }>(
    "SELECT id, number, posting_id AS posting FROM shipment_head WHERE posting_id IN (SELECT value FROM json_each($ids))",
    { ids: asJson(new Set(moves.filter((move) => move.purpose === "shipped").map((move) => move.posting))) },
  );
  const byId = (rows: readonly DocumentRow[]) => new Map(rows.map((row) => [row.id, row]));
  const found = {
    build: byId(builds),
    order: byId(orders),
    purchase: byId(purchases),
    return: byId(returns),
    "supplier-return": byId(sentBack),
    "take-apart": byId(takeAparts),
    rework: byId(reworks),
  };
  const shipmentOf = new Map(shipments.map(({ posting, ...row }) => [posting, row]));
  return ({ source, source_id, posting }) => {
    const of = (kind: keyof typeof found) => (source === kind ? (found[kind].get(source_id) ?? null) : null);
    const named = (row: DocumentRow | null) => row && { id: row.id, number: row.number };
    const [order, purchase, returned] = [of("order"), of("purchase"), of("return")];
    const firm = order ?? purchase ?? returned ?? of("supplier-return") ?? of("rework");
    return {
      build: named(of("build")),
      order: named(order),
      shipment: shipmentOf.get(posting) ?? null,
      purchase: named(purchase),
      return: named(returned),
      takeApart: named(of("take-apart")),
      rework: named(of("rework")),
      firm: firm?.firm ? { id: firm.firm, code: firm.code ?? "", name: firm.name ?? "" } : null,
    };
  };
}
