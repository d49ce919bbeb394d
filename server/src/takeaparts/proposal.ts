import {
  type ProposedPart,
  type QueryOf,
  Refusal,
  type routes,
  type TakeApartProposal,
} from "@yosegi/contract";
import {
  type Decimal,
  type ExpectedPart,
  expectedOfBuild,
  expectedOfList,
  expectedOfLots,
  type FullLine,
  ONE,
  type PartsList,
  quantityFromScaled,
  withOptions,
  ZERO,
} from "@yosegi/core";
import { type BuildTableRow, buildById, doneOf, homes, storedLines } from "../builds/index.ts";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { briefs, itemById, loadUnits } from "../items/index.ts";
import { loadRevisions, revisionsInForce } from "../lists/index.ts";
import { addedTo } from "../pieces/index.ts";

/** Units of a product that are taken apart. */
export interface Unit {
  item: number;
  lot: string;
  serial: string;
  quantity: Decimal;
}

/** Most parts of one take-apart. */
const MOST_PARTS = 500;

interface Piece {
  item: number;
  lot: string;
  serial: string;
  expected: Decimal;
}

/** What units of a product should hold: by a revision that is chosen, else by the build that made them, else by the parts list in force. */
export async function takeApartProposal(
  ctx: Reading,
  {
    build: chosen,
    revision,
    ...unit
  }: Omit<QueryOf<typeof routes.takeApartProposal>, "quantity"> & { quantity: Decimal },
): Promise<TakeApartProposal> {
  const product = await itemById(ctx, unit.item);
  if (product.kind !== "built") throw Refusal.at("item", "take-apart-built", { code: product.code });
  const builds = await buildsOf(ctx, unit);
  const made = unit.lot === "" && unit.serial === "" ? null : (builds[0]?.id ?? null);
  const id = revision !== 0 ? null : chosen === 0 ? made : chosen;
  const build = id === null ? null : await buildById(ctx, id);
  if (build && build.product_id !== unit.item)
    throw Refusal.at("build", "take-apart-other-build", { number: build.number, code: product.code });
  const list = build ? null : await listOf(ctx, unit.item, revision || null);
  const first = build ? await piecesOfBuild(ctx, build, unit) : await piecesOfList(ctx, list, unit);
  const pieces = withAdded(first, await piecesOfReworks(ctx, unit));
  const items = pieces.map(({ item }) => item);
  const brief = await briefs(ctx, [unit.item, ...items]);
  const home = await homes(ctx, [unit.item, ...items]);
  const barcodes = await ctx.sql.all<{ id: number; barcode: string }>(
    "SELECT id, barcode FROM item_head WHERE id IN (SELECT value FROM json_each($items))",
    { items: asJson(new Set(items)) },
  );
  const barcodeOf = new Map(barcodes.map(({ id: part, barcode }) => [part, barcode]));
  return {
    item: brief(unit.item),
    home: home(unit.item),
    build: build && { id: build.id, number: build.number },
    revision: list?.revision ?? null,
    revisions: await revisionsOf(ctx, unit.item),
    builds: builds.map(({ left, ...own }) => ({ ...own, left: quantityFromScaled(left).toFixed() })),
    parts: pieces.map(
      ({ item, lot, serial, expected }): ProposedPart => ({
        item: brief(item),
        barcode: barcodeOf.get(item) ?? "",
        lot,
        serial,
        expected: expected.toFixed(),
        home: home(item),
      }),
    ),
  };
}

/** Builds that made such units, the latest first; of a lot or serial number those that made it. */
async function buildsOf(
  ctx: Reading,
  { item, lot, serial }: Unit,
): Promise<{ id: number; number: string; left: number }[]> {
  return ctx.sql.all(
    `SELECT b.build_id AS id, b.number, b.good - COALESCE((SELECT SUM(t.quantity) FROM take_apart t WHERE t.build_id = b.build_id AND t.undone_at IS NULL), 0) AS left
       FROM build_output b
      WHERE b.product_id = $item AND b.good > 0
        AND ($lot = '' AND $serial = '' OR EXISTS (
              SELECT 1 FROM stock_movement m JOIN posting_head o ON o.id = m.posting_id AND o.undoes IS NULL
               WHERE m.source = 'build' AND m.source_id = b.build_id AND m.purpose = 'built' AND m.item_id = $item AND m.lot = $lot AND m.serial = $serial
                 AND NOT EXISTS (SELECT 1 FROM posting_head u WHERE u.undoes = o.id)))
      ORDER BY b.build_id DESC LIMIT 20`,
    { item, lot, serial },
  );
}

/** What a build really used for so many of its units, with lots and serial numbers. */
async function piecesOfBuild(ctx: Reading, build: BuildTableRow, unit: Unit): Promise<Piece[]> {
  const units = await loadUnits(ctx);
  const lines = await storedLines(ctx, build.id, units);
  const worked = doneOf(build);
  if (worked.eq(0)) throw Refusal.at("build", "take-apart-none-made", { number: build.number });
  const expected = expectedOfBuild(
    lines.map((line) => ({ ...line, decimals: line.stockUnit.decimals })),
    worked,
    unit.quantity,
  );
  const used = await ctx.sql.all<{ item: number; lot: string; serial: string; quantity: number }>(
    `SELECT m.item_id AS item, m.lot, m.serial, SUM(m.quantity) AS quantity
       FROM finish_head f JOIN stock_movement m ON m.posting_id = f.posting_id AND m.purpose = 'used'
      WHERE f.build_id = $build AND f.undone_at IS NULL AND (m.lot <> '' OR m.serial <> '') GROUP BY 1, 2, 3`,
    { build: build.id },
  );
  const known = await ctx.sql.all<{ item: number; serial: string }>(
    `SELECT p.part_id AS item, p.part_serial AS serial FROM finish_head f JOIN unit_part p ON p.posting_id = f.posting_id
      WHERE f.build_id = $build AND f.undone_at IS NULL AND p.item_id = $item AND p.serial = $serial`,
    { build: build.id, item: unit.item, serial: unit.serial },
  );
  const usedOf = groupBy(used, (row) => row.item);
  const serials = await stillInside(
    ctx,
    unit.serial === "" ? used.filter((row) => row.serial !== "") : known,
  );
  return expected.flatMap((part) => piecesOf(part, usedOf.get(part.item) ?? [], serials));
}

/** What reworks put into a unit; a numbered part only where it is still inside. */
async function piecesOfReworks(ctx: Reading, unit: Unit): Promise<Piece[]> {
  if (unit.serial === "") return [];
  const added = (await addedTo(ctx, [unit]))(unit);
  const inside = await stillInside(
    ctx,
    added.filter(({ serial }) => serial !== ""),
  );
  return added.flatMap(({ item, lot, serial, quantity }) =>
    serial === "" || inside.get(item)?.includes(serial) ? [{ item, lot, serial, expected: quantity }] : [],
  );
}

/** Pieces with others beside them: so much more is expected of those that are the same. */
function withAdded(pieces: readonly Piece[], added: readonly Piece[]): Piece[] {
  const all = pieces.map((piece) => ({ ...piece }));
  for (const piece of added) {
    const same = all.find(
      ({ item, lot, serial }) => item === piece.item && lot === piece.lot && serial === piece.serial,
    );
    if (same) same.expected = same.expected.plus(piece.expected);
    else all.push({ ...piece });
  }
  return all;
}

/** Of serial numbers those that are inside a unit, and not out of it again. */
async function stillInside(
  ctx: Reading,
  pieces: readonly { item: number; serial: string }[],
): Promise<Map<number, string[]>> {
  const rows = await ctx.sql.all<{ item: number; serial: string }>(
    `SELECT s.item_id AS item, s.serial FROM json_each($pieces) k
       JOIN serial_state s ON s.item_id = k.value ->> 'item' AND s.serial = k.value ->> 'serial' WHERE s.purpose = 'used' ORDER BY s.serial`,
    { pieces: asJson(pieces.map(({ item, serial }) => ({ item, serial }))) },
  );
  return new Map(
    [...groupBy(rows, (row) => row.item)].map(([item, own]) => [item, own.map((row) => row.serial)]),
  );
}

/** A part as its lots and serial numbers: a numbered part is a piece each. */
function piecesOf(
  { item, quantity }: ExpectedPart,
  used: readonly { lot: string; serial: string; quantity: number }[],
  serials: ReadonlyMap<number, string[]>,
): Piece[] {
  if (used.some((row) => row.serial !== "")) {
    const found = (serials.get(item) ?? []).slice(0, quantity.toNumber());
    return found.map((serial) => ({ item, lot: "", serial, expected: ONE }));
  }
  const lots = used.map((row) => ({ lot: row.lot, quantity: quantityFromScaled(row.quantity) }));
  return expectedOfLots(quantity, lots).map((own) => ({
    item,
    serial: "",
    lot: own.lot,
    expected: own.quantity,
  }));
}

/** A parts list by its revision. */
type ListOf = PartsList<FullLine> & { revision: number };

/** The list of a revision that was chosen, or the main one in force; null where the product has none. */
export async function listOf(ctx: Reading, item: number, revision: number | null): Promise<ListOf | null> {
  const id = revision ?? (await revisionsInForce(ctx, [item])).get(item);
  if (id === undefined) return null;
  const known = await ctx.sql.one("SELECT 1 FROM revision_head WHERE id = $id AND product_id = $item", {
    id,
    item,
  });
  const list = (await loadRevisions(ctx, [id])).get(id);
  if (!known || !list) throw Refusal.at("revision", "not-found", { what: "revision of its parts lists", id });
  return { revision: id, ...withOptions(list, new Set()) };
}

/** Revisions of all lists of a product: those of the main one first, the newest first. */
async function revisionsOf(ctx: Reading, item: number): Promise<TakeApartProposal["revisions"]> {
  const rows = await ctx.sql.all<{ id: number; list: string; number: number }>(
    "SELECT id, list, number FROM revision_head WHERE product_id = $item ORDER BY main DESC, list, number DESC LIMIT 100",
    { item },
  );
  const inForce = (await revisionsInForce(ctx, [item])).get(item);
  return rows.map((row) => ({ ...row, inForce: row.id === inForce }));
}

async function piecesOfList(ctx: Reading, list: ListOf | null, { quantity }: Unit): Promise<Piece[]> {
  if (list === null) return [];
  const expected = expectedOfList(list.lines, list.makes, quantity);
  const brief = await briefs(
    ctx,
    expected.map((part) => part.item),
  );
  return expected.flatMap((part) => {
    const piece = { item: part.item, lot: "", serial: "" };
    if (brief(part.item).tracking !== "serial") return [{ ...piece, expected: part.quantity }];
    // Each has a number of its own, which the person reads off it.
    return Array.from({ length: Math.min(part.quantity.toNumber(), MOST_PARTS) }, () => ({
      ...piece,
      expected: ONE,
    }));
  });
}

/** The percentages by which the list of a build, that chosen, or that in force, lets parts take back value; none where it sets none. */
export async function sharesOf(
  ctx: Reading,
  item: number,
  { build, revision }: { build: number | null; revision: number | null },
): Promise<Map<number, Decimal>> {
  const ofBuild = build === null ? null : (await buildById(ctx, build)).revision_id;
  return sharesIn((await listOf(ctx, item, revision ?? ofBuild))?.lines ?? []);
}

/** The percentages that a list's lines set, by part. */
export function sharesIn(lines: readonly Pick<FullLine, "item" | "share">[]): Map<number, Decimal> {
  const shares = new Map<number, Decimal>();
  for (const { item, share } of lines)
    if (share !== null) shares.set(item, (shares.get(item) ?? ZERO).plus(share));
  return shares;
}
