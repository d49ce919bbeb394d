import { type ParsedBody, type PieceCard, Refusal, type routes } from "@yosegi/contract";
import {
  addMonths,
  checkDecimals,
  type Day,
  type Decimal,
  divideDown,
  type Problem,
  quantityFromScaled,
  reporter,
} from "@yosegi/core";
import { customValuesByCode } from "../customfields/index.ts";
import type { Reading, Writing } from "../db/index.ts";
import { briefs, loadUnits, unitNamed } from "../items/index.ts";
import { checkMade, describePiece, type Piece, serialsElsewhere, writeContents } from "../ledger/index.ts";
import { refuseProblems } from "../problems.ts";

interface Known {
  madeOn: Day | null;
  expiry: Day | null;
  makerNumber: string;
}

/** What is known of a lot or unit; refuses one that never was in stock. */
export async function knownOf(ctx: Reading, { item, lot, serial }: Piece): Promise<Known> {
  if ((lot === "") === (serial === "")) throw Refusal.at("lot", "piece-needed");
  const row = await ctx.sql.one<Known>(
    `SELECT made_on AS madeOn, expiry, maker_number AS makerNumber FROM lot_head WHERE item_id = $item AND code = $lot AND $lot <> ''
      UNION ALL
     SELECT made_on, expiry, maker_number FROM serial_head WHERE item_id = $item AND code = $serial AND $serial <> ''`,
    { item, lot, serial },
  );
  if (!row)
    throw Refusal.at(serial ? "serial" : "lot", "not-found", {
      what: serial ? "serial number" : "lot",
      id: serial || lot,
    });
  return row;
}

/** The card of a lot or unit. */
export async function pieceCard(ctx: Reading, piece: Piece): Promise<PieceCard> {
  const { item, lot, serial } = piece;
  const known = await knownOf(ctx, piece);
  const reworks = serial === "" ? [] : await reworksOf(ctx, piece);
  const was = reworks.find((own) => own.became === item && own.was !== item)?.was ?? null;
  // What a rework made another item of is what it was built as, with what is inside.
  const origin = was === null ? piece : { ...piece, item: was };
  const built = serial === "" ? [] : await builtInto(ctx, origin);
  const written = serial === "" ? [] : await writtenInto(ctx, piece);
  const inside = built.length > 0 ? built : written;
  const brief = await briefs(ctx, [item, ...(was === null ? [] : [was]), ...inside.map((part) => part.item)]);
  return {
    item: brief(item),
    lot,
    serial,
    ...known,
    gone: serial === "" ? "" : await goneWords(ctx, piece),
    warranty: serial === "" ? null : await warrantyOf(ctx, piece),
    build: await buildOf(ctx, origin),
    reworks: reworks.map(({ id, number }) => ({ id, number })),
    was: was === null ? null : brief(was),
    contents: inside.map((part) => ({
      item: brief(part.item),
      quantity: part.quantity.toFixed(),
      lot: part.lot,
      serial: part.serial,
    })),
    written: built.length === 0 && written.length > 0,
    custom: (await customValuesByCode(ctx, item))({ lot, serial }),
  };
}

/** Reworks that a unit went into, or came out of, as far as they were not undone. */
async function reworksOf(
  ctx: Reading,
  { item, serial }: Piece,
): Promise<{ id: number; number: string; was: number; became: number | null }[]> {
  return ctx.sql.all(
    `SELECT r.id, r.number, r.item_id AS was, u.item_id AS became FROM rework_unit_head u
       JOIN rework_head r ON r.id = u.rework_id AND r.undone_at IS NULL
      WHERE u.serial = $serial AND u.serial <> '' AND (r.item_id = $item OR u.item_id = $item) ORDER BY r.id`,
    { item, serial },
  );
}

interface PartRow {
  item: number;
  quantity: Decimal;
  lot: string;
  serial: string;
}

/** What went into a unit when it was built: its own numbered parts, and its share of all others of that finish. */
async function builtInto(ctx: Reading, { item, serial }: Piece): Promise<PartRow[]> {
  const rows = await ctx.sql.all<
    Omit<PartRow, "quantity"> & { quantity: number; units: number; decimals: number }
  >(
    `WITH made AS (
       SELECT m.posting_id, f.good + f.rejected AS units
         FROM stock_movement m JOIN posting_head o ON o.id = m.posting_id AND o.undoes IS NULL JOIN finish_head f ON f.posting_id = o.id
        WHERE m.item_id = $item AND m.serial = $serial AND m.purpose = 'built' AND f.undone_at IS NULL ORDER BY m.id DESC LIMIT 1)
     SELECT p.part_id AS item, 1000000 AS quantity, 1000000 AS units, 0 AS decimals, '' AS lot, p.part_serial AS serial
       FROM made JOIN unit_part p ON p.posting_id = made.posting_id AND p.item_id = $item AND p.serial = $serial
      UNION ALL
     SELECT m.item_id, SUM(m.quantity), made.units, i.decimals, m.lot, ''
       FROM made JOIN stock_movement m ON m.posting_id = made.posting_id AND m.purpose = 'used' AND m.serial = ''
       JOIN item_head i ON i.id = m.item_id GROUP BY m.item_id, m.lot, made.units, i.decimals`,
    { item, serial },
  );
  return rows.map(({ quantity, units, decimals, ...part }) => ({
    ...part,
    quantity: divideDown(quantityFromScaled(quantity), quantityFromScaled(units), decimals),
  }));
}

/** What was written down as inside a unit. */
async function writtenInto(ctx: Reading, { item, serial }: Piece): Promise<PartRow[]> {
  const rows = await ctx.sql.all<Omit<PartRow, "quantity"> & { quantity: number }>(
    `SELECT part_id AS item, quantity, part_lot AS lot, part_serial AS serial FROM unit_content
      WHERE item_id = $item AND serial = $serial ORDER BY id`,
    { item, serial },
  );
  return rows.map((row) => ({ ...row, quantity: quantityFromScaled(row.quantity) }));
}

/** Where a unit went that is not in stock: by opening stock nothing that ever left may come in. */
async function goneWords(ctx: Reading, { item, serial }: Piece): Promise<string> {
  const where = (await serialsElsewhere(ctx, [{ item, serial }], "opening"))({ item, serial });
  return where === null || where.startsWith("in ") ? "" : where;
}

/** From when and until when a unit's warranty runs: from the day it was shipped, while it is with a customer; a rework of theirs changes nothing. */
async function warrantyOf(ctx: Reading, { item, serial }: Piece): Promise<PieceCard["warranty"]> {
  const row = await ctx.sql.one<{
    purpose: string;
    day: Day;
    months: number | null;
    firm: number;
    code: string;
    name: string;
    shipment: number;
    number: string;
  }>(
    `SELECT s.purpose, o.day, i.warranty_months AS months, f.id AS firm, f.code, f.name, h.id AS shipment, h.number
       FROM serial_state s JOIN stock_movement m ON m.item_id = s.item_id AND m.serial = s.serial AND m.purpose = 'shipped'
       JOIN shipment_head h ON h.posting_id = m.posting_id JOIN posting_head o ON o.id = m.posting_id AND o.undoes IS NULL
       JOIN item_head i ON i.id = s.item_id JOIN order_head r ON r.id = h.order_id JOIN firm_head f ON f.id = r.customer_id
      WHERE s.item_id = $item AND s.serial = $serial AND NOT EXISTS (SELECT 1 FROM posting_head u WHERE u.undoes = o.id)
      ORDER BY m.id DESC LIMIT 1`,
    { item, serial },
  );
  if (row?.purpose !== "shipped") return null;
  return {
    from: row.day,
    until: row.months === null ? null : addMonths(row.day, row.months),
    customer: { id: row.firm, code: row.code, name: row.name },
    shipment: { id: row.shipment, number: row.number },
  };
}

async function buildOf(ctx: Reading, { item, lot, serial }: Piece): Promise<PieceCard["build"]> {
  return ctx.sql.one<{ id: number; number: string }>(
    `SELECT b.id, b.number FROM stock_movement m JOIN posting_head o ON o.id = m.posting_id AND o.undoes IS NULL
       JOIN build_head b ON m.source = 'build' AND b.id = m.source_id
      WHERE m.item_id = $item AND m.lot = $lot AND m.serial = $serial AND m.purpose = 'built'
        AND NOT EXISTS (SELECT 1 FROM posting_head u WHERE u.undoes = o.id) ORDER BY m.id DESC LIMIT 1`,
    { item, lot, serial },
  );
}

/** Sets when a lot or unit was made, by when it is to be used, and its maker's number. */
export async function changePiece(
  ctx: Writing,
  { item, lot, serial, ...known }: ParsedBody<typeof routes.changePiece>,
): Promise<PieceCard> {
  const piece = { item, lot, serial };
  await knownOf(ctx, piece);
  checkMade(known, ctx.today);
  await describePiece(ctx, piece, known);
  return pieceCard(ctx, piece);
}

/** Writes down what is inside a unit; refused for one whose build says it. */
export async function writePieceContents(
  ctx: Writing,
  { item, serial, contents }: ParsedBody<typeof routes.writeContents>,
): Promise<PieceCard> {
  const piece = { item, lot: "", serial };
  await knownOf(ctx, piece);
  const build = await buildOf(ctx, piece);
  if (build) throw Refusal.at("serial", "built-here", { serial, number: build.number });
  const units = await loadUnits(ctx);
  const brief = await briefs(
    ctx,
    contents.map((part) => part.item),
  );
  for (const [i, part] of contents.entries()) {
    const problems: Problem[] = [];
    const { code, kind, unit } = brief(part.item);
    checkDecimals("quantity", part.quantity, unitNamed(units, unit), reporter(i, problems));
    refuseProblems(problems, (p) => `contents.${i}.${p.field}`);
    if (part.item === item) throw Refusal.at(`contents.${i}.item`, "not-itself", { code });
    if (kind === "kit") throw Refusal.at(`contents.${i}.item`, "part-is-kit", { code });
    if (part.serial !== "" && !part.quantity.eq(1)) throw Refusal.at(`contents.${i}.quantity`, "serial-one");
  }
  await writeContents(ctx, piece, contents);
  return pieceCard(ctx, piece);
}
