import type { FinishRecord } from "@yosegi/contract";
import { divideRounded, MONEY_DECIMALS, moneyFromScaled, quantityFromScaled } from "@yosegi/core";
import { groupBy, type Reading } from "../db/index.ts";

interface FinishTableRow {
  id: number;
  posting: number;
  moment: string;
  day: string;
  person: string;
  reason: string;
  good: number;
  rejected: number;
  lot: string;
  expiry: string | null;
  store: string;
  bin: string;
  parts: number;
  work: number;
  overhead: number;
  extra: number;
  subcontractor: number;
  total: number;
  undone_by: string | null;
  undone_at: string | null;
}

/** What was recorded for a build, earliest first, with what each finish cost. */
export async function finishes(ctx: Reading, build: number): Promise<FinishRecord[]> {
  const rows = await ctx.sql.all<FinishTableRow>(
    `SELECT f.id, f.posting_id AS posting, o.moment, o.day, n.name AS person, o.reason, f.good, f.rejected, f.lot, f.expiry,
            p.name AS store, f.bin, f.parts, f.work, f.overhead, f.extra, f.fee AS subcontractor, f.total, u.name AS undone_by, f.undone_at
       FROM finish f JOIN posting_head o ON o.id = f.posting_id JOIN person_name n ON n.id = o.person_id
       JOIN location_head p ON p.id = f.location_id LEFT JOIN person_name u ON u.id = f.undone_by WHERE f.build_id = $build ORDER BY f.id`,
    { build },
  );
  const lines = await finishedLines(ctx, build);
  const work = await workDone(ctx, build);
  const counts = await countsMade(ctx, build);
  const serialParts = await partsInside(ctx, build);
  const serials = await serialsMade(ctx, build);
  return rows.map((row) => ({
    id: row.id,
    moment: row.moment,
    day: row.day,
    person: row.person,
    reason: row.reason,
    good: quantityFromScaled(row.good).toFixed(),
    rejected: quantityFromScaled(row.rejected).toFixed(),
    lot: row.lot,
    expiry: row.expiry,
    store: row.store,
    bin: row.bin,
    serials: (serials.get(row.posting) ?? []).map((made) => made.serial),
    lines: (lines.get(row.id) ?? []).map(lineRecord),
    work: (work.get(row.id) ?? []).map(({ line, person, quantity }) => ({
      line,
      person,
      quantity: quantityFromScaled(quantity).toFixed(),
    })),
    counts: (counts.get(row.posting) ?? []).map(({ item, unit, quantity, up, reason }) => ({
      item,
      unit,
      reason,
      difference: quantityFromScaled(up === 1 ? quantity : -quantity).toFixed(),
    })),
    serialParts: (serialParts.get(row.id) ?? []).map(({ serial, item, part }) => ({ serial, item, part })),
    undone: row.undone_at === null ? null : { person: row.undone_by ?? "", moment: row.undone_at },
    cost: costRecord(row),
  }));
}

const money = (scaled: number): string => moneyFromScaled(scaled).toFixed(4);

const costRecord = (row: FinishTableRow): FinishRecord["cost"] => ({
  parts: money(row.parts),
  work: money(row.work),
  overhead: money(row.overhead),
  extra: money(row.extra),
  subcontractor: money(row.subcontractor),
  total: money(row.total),
  each: row.good === 0 ? null : eachOf(row),
});

interface FinishedLineRow {
  finish: number;
  line: number;
  planned: number;
  used: number;
  cost: number;
  difference_cost: number;
  scrapped: number;
  from_bench: number;
  back: number;
  reason: string;
  item: number;
}

const lineRecord = (line: FinishedLineRow): FinishRecord["lines"][number] => ({
  line: line.line,
  item: line.item,
  planned: quantityFromScaled(line.planned).toFixed(),
  used: quantityFromScaled(line.used).toFixed(),
  scrapped: quantityFromScaled(line.scrapped).toFixed(),
  difference: quantityFromScaled(line.used - line.planned).toFixed(),
  fromBench: quantityFromScaled(line.from_bench).toFixed(),
  back: quantityFromScaled(line.back).toFixed(),
  reason: line.reason,
  cost: money(line.cost),
  differenceCost: money(line.difference_cost),
});

/** What was booked on the lines, by the id of the finish. */
async function finishedLines(ctx: Reading, build: number): Promise<Map<number, FinishedLineRow[]>> {
  const rows = await ctx.sql.all<FinishedLineRow>(
    `SELECT l.finish_id AS finish, l.line, l.planned, l.used, l.cost, l.difference_cost, l.scrapped, l.from_bench, l.returned AS back, l.reason,
            b.item_id AS item
       FROM finish f JOIN finish_line l ON l.finish_id = f.id JOIN build_line b ON b.build_id = f.build_id AND b.line = l.line
      WHERE f.build_id = $build ORDER BY l.finish_id, l.line`,
    { build },
  );
  return groupBy(rows, (row) => row.finish);
}

/** Who worked how long, by the id of the finish. */
async function workDone(ctx: Reading, build: number) {
  const rows = await ctx.sql.all<{ finish: number; line: number; person: string; quantity: number }>(
    `SELECT w.finish_id AS finish, w.line, n.name AS person, w.quantity
       FROM finish f JOIN finish_work w ON w.finish_id = f.id JOIN person_name n ON n.id = w.person_id
      WHERE f.build_id = $build ORDER BY w.finish_id, w.line, n.name_key`,
    { build },
  );
  return groupBy(rows, (row) => row.finish);
}

/** What was counted on the way, by the id of the posting: of all its movements only counts have a reason. */
async function countsMade(ctx: Reading, build: number) {
  const rows = await ctx.sql.all<{
    posting: number;
    item: string;
    unit: string;
    quantity: number;
    up: number;
    reason: string;
  }>(
    `SELECT m.posting_id AS posting, i.name AS item, i.unit, m.quantity, m.from_location IS NULL AS up, m.reason
       FROM finish f JOIN stock_movement m ON m.posting_id = f.posting_id AND m.reason <> '' JOIN item_head i ON i.id = m.item_id
      WHERE f.build_id = $build ORDER BY m.id`,
    { build },
  );
  return groupBy(rows, (row) => row.posting);
}

/** Which part of a serial went into which unit, by the id of the finish. */
async function partsInside(ctx: Reading, build: number) {
  const rows = await ctx.sql.all<{ finish: number; serial: string; item: number; part: string }>(
    `SELECT s.finish_id AS finish, s.serial, s.part_id AS item, s.part_serial AS part
       FROM finish f JOIN serial_part s ON s.finish_id = f.id WHERE f.build_id = $build ORDER BY s.serial, s.part_serial`,
    { build },
  );
  return groupBy(rows, (row) => row.finish);
}

/** The serials of the units that were made, by the id of the posting. */
async function serialsMade(ctx: Reading, build: number) {
  const rows = await ctx.sql.all<{ posting: number; serial: string }>(
    `SELECT m.posting_id AS posting, m.serial
       FROM finish f JOIN build b ON b.id = f.build_id
       JOIN stock_movement m ON m.posting_id = f.posting_id AND m.from_location IS NULL AND m.serial <> '' AND m.item_id = b.product_id
      WHERE f.build_id = $build ORDER BY m.id`,
    { build },
  );
  return groupBy(rows, (row) => row.posting);
}

function eachOf(row: FinishTableRow): string {
  return divideRounded(moneyFromScaled(row.total), quantityFromScaled(row.good), MONEY_DECIMALS).toFixed(
    MONEY_DECIMALS,
  );
}

/** Id of the last finish of a build that stands; null where there is none. */
export async function lastFinish(ctx: Reading, build: number): Promise<number | null> {
  const row = await ctx.sql.one<{ id: number | null }>(
    "SELECT MAX(id) AS id FROM finish WHERE build_id = $build AND undone_at IS NULL",
    { build },
  );
  return row?.id ?? null;
}
