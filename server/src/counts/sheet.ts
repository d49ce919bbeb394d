import { type CountLine, type CountSheet, Refusal } from "@yosegi/contract";
import {
  type Counted,
  countDifference,
  countMovements,
  type Decimal,
  moneyFromScaled,
  post,
  quantityFromScaled,
  rateOf,
  type StockState,
  spotKey,
  sum,
  thereNow,
  ZERO,
} from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { loadBooks, locationNames } from "../ledger/index.ts";
import { currentCosts } from "../lists/index.ts";
import { personNames } from "../people/index.ts";
import { COUNT_LINE, COUNT_SHEET, type CountLineRow, type CountSheetRow } from "./tables.ts";

/** A sheet that must be there. */
export async function sheetById(ctx: Reading, id: number): Promise<CountSheetRow> {
  const found = await ctx.model(COUNT_SHEET).findByPk(id);
  if (!found) throw new Refusal("not-found", { what: "count", id });
  return found.get({ plain: true });
}

/** Refuses to rename a bin that a count under way lists: what is counted there would be found a second time. Errors: `bin-counted`. */
export async function refuseCounting(ctx: Reading, location: number, bin: string): Promise<void> {
  const sheet = await ctx.sql.one<{ number: string }>(
    `SELECT c.number FROM count_line l JOIN count_sheet c ON c.id = l.sheet_id
      WHERE l.location_id = $location AND l.bin = $bin AND c.state = 'open' LIMIT 1`,
    { location, bin },
  );
  if (sheet) throw Refusal.at("bin", "bin-counted", { number: sheet.number, bin });
}

/** The lines of a sheet, by store, bin and item as one walks. */
export async function linesOfSheet(ctx: Reading, sheet: number): Promise<CountLineRow[]> {
  const found = await ctx.model(COUNT_LINE).findAll({ where: { sheet_id: sheet } });
  return found.map((line) => line.get({ plain: true }));
}

export const placeOf = (line: CountLineRow) => ({
  item: line.item_id,
  lot: line.lot,
  serial: line.serial,
  location: line.location_id,
  bin: line.bin,
});

/** A counted line with what is there now by it, which is below zero where it can't be. */
export interface LineThere {
  line: CountLineRow;
  difference: Decimal;
  there: Decimal;
}

/** What the counted lines of a sheet say is there now; lines that were not counted are left out. */
export async function theresOf(
  ctx: Reading,
  sheet: CountSheetRow,
  lines: readonly CountLineRow[],
  stock: StockState,
): Promise<LineThere[]> {
  const corrected = await correctionsSince(ctx, sheet);
  return lines.flatMap((line) => {
    if (line.counted === null || line.books === null) return [];
    const against = {
      counted: quantityFromScaled(line.counted),
      books: quantityFromScaled(line.before === 1 ? line.expected : line.books),
      // What the sheet itself has corrected is no other count.
      corrected: sheet.state === "posted" ? ZERO : (corrected.get(line.id) ?? ZERO),
    };
    const now = stock.balances.get(spotKey(placeOf(line)))?.quantity ?? ZERO;
    return [{ line, difference: countDifference(against), there: thereNow(against, now) }];
  });
}

/** By how much other counts have corrected the books of each line since it was counted. */
async function correctionsSince(ctx: Reading, { id, moment }: CountSheetRow): Promise<Map<number, Decimal>> {
  const rows = await ctx.sql.all<{ line: number; quantity: number }>(
    `SELECT l.id AS line, SUM(CASE WHEN m.to_location IS NULL THEN -m.quantity ELSE m.quantity END) AS quantity
       FROM count_line l
       JOIN stock_movement m ON m.item_id = l.item_id AND m.lot = l.lot AND m.serial = l.serial AND m.purpose = 'counted'
        AND COALESCE(m.to_location, m.from_location) = l.location_id
        AND CASE WHEN m.to_location IS NULL THEN m.from_bin ELSE m.to_bin END = l.bin
       JOIN posting_head o ON o.id = m.posting_id AND o.moment > CASE WHEN l.before = 1 THEN $moment ELSE l.moment END
      WHERE l.sheet_id = $id AND l.counted IS NOT NULL GROUP BY l.id`,
    { id, moment },
  );
  return new Map(rows.map((row) => [row.line, quantityFromScaled(row.quantity)]));
}

/** Values of what differs, by where it is: found above zero, lost below. */
async function valuesOf(
  ctx: Reading,
  sheet: CountSheetRow,
  theres: readonly LineThere[],
  stock: StockState,
): Promise<Map<string, Decimal>> {
  if (sheet.state === "posted") return postedValues(ctx, sheet.number);
  const costs = await currentCosts(
    ctx,
    theres.map(({ line }) => line.item_id),
  );
  const counts = theres
    .filter(({ there }) => there.gte(0))
    .map(
      ({ line, there }): Counted => ({
        ...placeOf(line),
        at: { location: line.location_id, bin: line.bin },
        there,
        expiry: null,
        reason: line.reason,
        // An item whose cost is unknown counts as worth nothing here; posting asks for its cost.
        unitCost: costs(line.item_id) ?? rateOf(ZERO),
      }),
    );
  const posted = post(stock, countMovements(stock, counts));
  if (!posted.ok) return new Map();
  return new Map(
    posted.movements.map(({ from, to, value, item, lot, serial }) => {
      const at = to ?? from;
      if (at === null) throw new Error("A counted movement has a place");
      return [spotKey({ item, lot, serial, ...at }), to ? value : value.neg()];
    }),
  );
}

async function postedValues(ctx: Reading, number: string): Promise<Map<string, Decimal>> {
  const rows = await ctx.sql.all<{
    item: number;
    lot: string;
    serial: string;
    location: number;
    bin: string;
    value: number;
  }>(
    `SELECT m.item_id AS item, m.lot, m.serial, COALESCE(m.to_location, m.from_location) AS location,
            CASE WHEN m.to_location IS NULL THEN m.from_bin ELSE m.to_bin END AS bin,
            CASE WHEN m.to_location IS NULL THEN -m.value ELSE m.value END AS value
       FROM posting_head o JOIN stock_movement m ON m.posting_id = o.id
      WHERE o.document = $number AND o.kind = 'count' AND o.undoes IS NULL`,
    { number },
  );
  return new Map(rows.map(({ value, ...at }) => [spotKey(at), moneyFromScaled(value)]));
}

async function wasUndone(ctx: Reading, number: string): Promise<boolean> {
  const row = await ctx.sql.one<{ id: number }>(
    `SELECT o.id FROM posting_head o WHERE o.document = $number AND o.kind = 'count' AND o.undoes IS NULL
        AND EXISTS (SELECT 1 FROM posting_head u WHERE u.undoes = o.id)`,
    { number },
  );
  return row !== null;
}

/** A sheet as it is shown: what was counted against the books. */
export async function countSheet(ctx: Reading, id: number): Promise<CountSheet> {
  const sheet = await sheetById(ctx, id);
  const lines = await linesOfSheet(ctx, id);
  const { stock } = await loadBooks(
    ctx,
    lines.map((line) => line.item_id),
  );
  const theres = await theresOf(ctx, sheet, lines, stock);
  const values = await valuesOf(ctx, sheet, theres, stock);
  const people = await personNames(ctx);
  const answers = await lineAnswers(ctx, { sheet, lines, stock, theres, values, people });
  const worth = [...values.values()];
  return {
    id: sheet.id,
    number: sheet.number,
    state: sheet.state === "posted" && (await wasUndone(ctx, sheet.number)) ? "undone" : sheet.state,
    blind: sheet.blind === 1,
    note: sheet.note,
    person: people.get(sheet.person_id) ?? "",
    moment: sheet.moment,
    lines: lines.length,
    counted: theres.length,
    endedBy: sheet.ended_by === null ? "" : (people.get(sheet.ended_by) ?? ""),
    endedAt: sheet.ended_at,
    sheet: answers,
    differences: theres.filter(({ difference }) => !difference.eq(0)).length,
    found: sum(worth.filter((value) => value.gt(0))).toFixed(4),
    lost: sum(worth.filter((value) => value.lt(0)))
      .abs()
      .toFixed(4),
  };
}

interface Given {
  sheet: CountSheetRow;
  lines: readonly CountLineRow[];
  stock: StockState;
  theres: readonly LineThere[];
  values: Map<string, Decimal>;
  people: Map<number, string>;
}

async function lineAnswers(
  ctx: Reading,
  { sheet, lines, stock, theres, values, people }: Given,
): Promise<CountLine[]> {
  const brief = await briefs(
    ctx,
    lines.map((line) => line.item_id),
  );
  const facts = await ctx.sql.all<{
    id: number;
    barcode: string;
    expiry: string | null;
    walk: number | null;
  }>(
    `SELECT c.id, i.barcode, l.expiry, b.walk FROM count_line c JOIN item_head i ON i.id = c.item_id
       LEFT JOIN lot_head l ON c.lot <> '' AND l.item_id = c.item_id AND l.code = c.lot
       LEFT JOIN bin_head b ON b.location_id = c.location_id AND b.code = c.bin
      WHERE c.sheet_id = $sheet`,
    { sheet: sheet.id },
  );
  const names = await locationNames(ctx);
  const factsOf = new Map(facts.map((row) => [row.id, row]));
  const differences = new Map(theres.map(({ line, difference }) => [line.id, difference]));
  const walk = (line: CountLineRow) => factsOf.get(line.id)?.walk ?? Number.MAX_SAFE_INTEGER;
  return [...lines]
    .sort(
      (a, b) =>
        a.location_id - b.location_id ||
        walk(a) - walk(b) ||
        a.bin.localeCompare(b.bin) ||
        brief(a.item_id).code.localeCompare(brief(b.item_id).code) ||
        a.id - b.id,
    )
    .map((line) => {
      const now = stock.balances.get(spotKey(placeOf(line)))?.quantity ?? ZERO;
      const books = line.books === null ? now : quantityFromScaled(line.books);
      const hidden = sheet.blind === 1 && sheet.state === "open" && line.counted === null;
      const difference = differences.get(line.id);
      return {
        id: line.id,
        item: brief(line.item_id),
        barcode: factsOf.get(line.id)?.barcode ?? "",
        store: names.get(line.location_id) ?? "",
        bin: line.bin,
        lot: line.lot,
        serial: line.serial,
        expiry: factsOf.get(line.id)?.expiry ?? null,
        books: hidden ? null : books.toFixed(),
        moved: hidden ? null : books.minus(quantityFromScaled(line.expected)).toFixed(),
        counted: line.counted === null ? null : quantityFromScaled(line.counted).toFixed(),
        before: line.before === 1,
        difference: difference?.toFixed() ?? null,
        value: difference === undefined ? null : (values.get(spotKey(placeOf(line))) ?? ZERO).toFixed(4),
        person: line.person_id === null ? "" : (people.get(line.person_id) ?? ""),
        reason: line.reason,
      };
    });
}
