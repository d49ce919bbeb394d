import type { BuildRow, BuildSheet, FinishRecord } from "@yosegi/contract";
import {
  free,
  lineNeed,
  moneyFromWhole,
  needUnit,
  type PartsList,
  quantityFromWhole,
  ZERO,
} from "@yosegi/core";
import { briefs, itemById, loadLists, loadUnits } from "../catalog/index.ts";
import { asJson, type BuildTableRow, type Reading } from "../db/index.ts";
import { stockFigures } from "../ledger/index.ts";
import { buildById, buildRows, doneOf, type KeptLine, keptLines } from "./rows.ts";

/** One build as the list shows it. */
export async function buildRow(ctx: Reading, id: number): Promise<BuildRow> {
  const [row] = await buildRows(ctx, { ids: [id] });
  if (!row) throw new Error(`Build ${id} was there and is not`);
  return row;
}

export async function buildSheet(ctx: Reading, id: number): Promise<BuildSheet> {
  const build = await buildById(ctx, id);
  const product = await itemById(ctx, build.product_id);
  const lines =
    build.makes === null ? await draftLines(ctx, build) : await keptLines(ctx, id, await loadUnits(ctx));
  const items = lines.map((line) => line.item);
  const brief = await briefs(ctx, items);
  const stock = await stockFigures(ctx, items);
  const bins = await homes(ctx, [product.id, ...items]);
  const home = bins.get(product.id);
  return {
    ...(await buildRow(ctx, id)),
    note: build.note,
    open: quantityFromWhole(build.quantity).minus(doneOf(build)).toFixed(),
    price: product.price === null ? null : moneyFromWhole(product.price).toFixed(2),
    store: home?.store ?? "",
    bin: home?.bin ?? "",
    lines: lines.map((line) => ({
      line: line.line,
      item: brief(line.item),
      service: line.service,
      unit: needUnit(line).code,
      decimals: needUnit(line).decimals,
      bin: bins.get(line.item)?.bin ?? "",
      need: line.need.toFixed(),
      used: line.used.toFixed(),
      open: line.open.toFixed(),
      onHand: line.service ? null : free({ ...stock(line.item), reserved: ZERO }).toFixed(),
    })),
    history: await history(ctx, build),
    finishes: await finishes(ctx, id),
  };
}

/** What a draft would take by the list as it is today. */
async function draftLines(ctx: Reading, build: BuildTableRow): Promise<KeptLine[]> {
  const list: PartsList | undefined = (await loadLists(ctx, [build.product_id])).get(build.product_id);
  const quantity = quantityFromWhole(build.quantity);
  return (list?.lines ?? []).map((line, i) => ({
    ...line,
    line: i + 1,
    need: lineNeed(line, list?.makes ?? quantity, quantity),
    used: ZERO,
    open: ZERO,
  }));
}

/** Home store and bin of items; the first store where an item names none. */
async function homes(ctx: Reading, items: readonly number[]) {
  const rows = await ctx.sql.all<{ id: number; store: string; bin: string }>(
    `SELECT i.id, COALESCE(p.name, (SELECT name FROM place WHERE kind = 'store' ORDER BY id LIMIT 1)) AS store,
            i.home_bin AS bin
       FROM json_each($ids) ids JOIN item i ON i.id = ids.value LEFT JOIN place p ON p.id = i.home_place_id`,
    { ids: asJson(items) },
  );
  return new Map(rows.map((row) => [row.id, row]));
}

async function history(ctx: Reading, build: BuildTableRow): Promise<BuildSheet["history"]> {
  const people = await ctx.sql.all<{ id: number; name: string }>("SELECT id, name FROM person");
  const nameOf = (id: number | null) => people.find((person) => person.id === id)?.name ?? "";
  const steps = [
    { what: "made" as const, by: build.made_by, moment: build.made_at },
    { what: "queued" as const, by: build.queued_by, moment: build.queued_at },
    { what: "finished" as const, by: build.finished_by, moment: build.finished_at },
    { what: "cancelled" as const, by: build.cancelled_by, moment: build.cancelled_at },
  ];
  return steps.flatMap(({ what, by, moment }) =>
    moment === null ? [] : [{ what, person: nameOf(by), moment }],
  );
}

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
  total: number;
}

/** What was recorded for a build, earliest first, with what each finish cost. */
async function finishes(ctx: Reading, build: number): Promise<FinishRecord[]> {
  const rows = await ctx.sql.all<FinishTableRow>(
    `SELECT f.id, f.posting_id AS posting, o.moment, o.day, n.name AS person, o.reason, f.good, f.rejected, f.lot, f.expiry,
            p.name AS store, f.bin, f.parts, f.work, f.overhead, f.total
       FROM finish f JOIN posting o ON o.id = f.posting_id JOIN person n ON n.id = o.person_id
       JOIN place p ON p.id = f.place_id WHERE f.build_id = $build ORDER BY f.id`,
    { build },
  );
  const lines = await ctx.sql.all<{
    finish: number;
    line: number;
    planned: number;
    used: number;
    cost: number;
    difference_cost: number;
  }>(
    `SELECT l.finish_id AS finish, l.line, l.planned, l.used, l.cost, l.difference_cost
       FROM finish f JOIN finish_line l ON l.finish_id = f.id WHERE f.build_id = $build ORDER BY l.finish_id, l.line`,
    { build },
  );
  const serials = await ctx.sql.all<{ posting: number; serial: string }>(
    `SELECT m.posting_id AS posting, m.serial
       FROM finish f JOIN movement m ON m.posting_id = f.posting_id AND m.from_place IS NULL AND m.serial <> ''
      WHERE f.build_id = $build ORDER BY m.id`,
    { build },
  );
  const money = (whole: number) => moneyFromWhole(whole).toFixed(4);
  return rows.map((row) => ({
    id: row.id,
    moment: row.moment,
    day: row.day,
    person: row.person,
    reason: row.reason,
    good: quantityFromWhole(row.good).toFixed(),
    rejected: quantityFromWhole(row.rejected).toFixed(),
    lot: row.lot,
    expiry: row.expiry,
    store: row.store,
    bin: row.bin,
    serials: serials.filter((s) => s.posting === row.posting).map((s) => s.serial),
    lines: lines
      .filter((line) => line.finish === row.id)
      .map((line) => ({
        line: line.line,
        planned: quantityFromWhole(line.planned).toFixed(),
        used: quantityFromWhole(line.used).toFixed(),
        difference: quantityFromWhole(line.used - line.planned).toFixed(),
        cost: money(line.cost),
        differenceCost: money(line.difference_cost),
      })),
    cost: {
      parts: money(row.parts),
      work: money(row.work),
      overhead: money(row.overhead),
      total: money(row.total),
      each: row.good === 0 ? null : eachOf(row),
    },
  }));
}

function eachOf(row: FinishTableRow): string {
  return moneyFromWhole(row.total).div(quantityFromWhole(row.good)).toFixed(4);
}
