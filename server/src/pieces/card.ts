import { type ParsedBody, type PieceCard, Refusal, type routes } from "@yosegi/contract";
import { checkDecimals, type Day, type Problem, reporter } from "@yosegi/core";
import { customValuesByCode } from "../customfields/index.ts";
import type { Reading, Writing } from "../db/index.ts";
import { briefs, loadUnits, unitNamed } from "../items/index.ts";
import { checkMade, describePiece, type Piece, serialsElsewhere, writeContents } from "../ledger/index.ts";
import { refuseProblems } from "../problems.ts";
import { contentsOf, insideOf, reworksOf, warrantiesOf, wasOf } from "./unit.ts";

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
  const unit = serial === "" ? null : { item, serial };
  const units = unit ? [unit] : [];
  const reworked = await reworksOf(ctx, units);
  const reworks = unit ? reworked(unit) : [];
  const was = unit && wasOf(unit, reworks);
  const inside = await insideOf(ctx, units, reworked);
  const warranty = await warrantiesOf(ctx, units);
  const { parts, written } = unit ? inside(unit) : { parts: [], written: false };
  const brief = await briefs(ctx, [item, ...(was === null ? [] : [was]), ...parts.map((part) => part.item)]);
  return {
    item: brief(item),
    lot,
    serial,
    ...known,
    gone: unit ? await goneWords(ctx, piece) : "",
    warranty: unit && warranty(unit),
    build: await buildOf(ctx, { ...piece, item: was ?? item }),
    reworks: reworks.map(({ id, number }) => ({ id, number })),
    was: was === null ? null : brief(was),
    contents: contentsOf(parts, brief),
    written,
    custom: (await customValuesByCode(ctx, item))({ lot, serial }),
  };
}

/** Where a unit went that is not in stock: by opening stock nothing that ever left may come in. */
async function goneWords(ctx: Reading, { item, serial }: Piece): Promise<string> {
  const where = (await serialsElsewhere(ctx, [{ item, serial }], "opening"))({ item, serial });
  return where === null || where.startsWith("in ") ? "" : where;
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
