import { type BuildRow, type BuildSheet, type FinishRecord, Refusal } from "@yosegi/contract";
import { free, lineNeed, moneyFromWhole, needUnit, quantityFromWhole, startFor, ZERO } from "@yosegi/core";
import { briefs, type FullList, itemById, loadUnits, placeAndPersonNames } from "../catalog/index.ts";
import { asJson, type BuildTableRow, type ItemTableRow, type Reading } from "../db/index.ts";
import { stockFigures } from "../ledger/index.ts";
import { buildById, buildRows, doneOf, type KeptLine, keptLines } from "./rows.ts";
import { draftOf, listFor } from "./steps.ts";

/** One build as the list shows it. */
export async function buildRow(ctx: Reading, id: number): Promise<BuildRow> {
  const [row] = await buildRows(ctx, { ids: [id] });
  if (!row) throw new Error(`Build ${id} was there and is not`);
  return row;
}

export async function buildSheet(ctx: Reading, id: number): Promise<BuildSheet> {
  const build = await buildById(ctx, id);
  const product = await itemById(ctx, build.product_id);
  const ended = build.makes === null && build.stage !== "draft";
  const list = build.makes === null && !ended ? await draftList(ctx, build, product) : null;
  const lines = list ? draftLines(build, list.taken) : await keptLines(ctx, id, await loadUnits(ctx));
  const { places } = await placeAndPersonNames(ctx);
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
      stocked: line.stocked,
      drawnAt: line.drawnAt,
      store: line.store === null ? "" : (places.get(line.store) ?? ""),
      note: line.note,
      unit: needUnit(line).code,
      decimals: needUnit(line).decimals,
      bin: bins.get(line.item)?.bin ?? "",
      need: line.need.toFixed(),
      used: line.used.toFixed(),
      open: line.open.toFixed(),
      onHand: !line.stocked ? null : free({ ...stock(line.item), reserved: ZERO }).toFixed(),
    })),
    wanted: quantityFromWhole(build.wanted).toFixed(),
    list: await listWords(ctx, list?.revision ?? build.revision_id),
    lists: await ctx.sql.all<{ id: number; name: string }>(
      "SELECT id, name FROM parts_list WHERE product_id = $id ORDER BY main DESC, name_key",
      { id: product.id },
    ),
    options: await optionsOf(ctx, build, list?.whole ?? null),
    history: await history(ctx, build),
    finishes: await finishes(ctx, id),
  };
}

/** The list of a draft as it is today; null where it has none in force any more. */
async function draftList(ctx: Reading, build: BuildTableRow, product: ItemTableRow) {
  try {
    return await listFor(ctx, product, draftOf(build));
  } catch (error) {
    if (error instanceof Refusal && error.code === "no-list") return null;
    throw error;
  }
}

async function listWords(ctx: Reading, revision: number | null): Promise<BuildSheet["list"]> {
  const row = await ctx.sql.one<{ id: number; name: string; main: number; revision: number }>(
    `SELECT p.id, p.name, p.main, r.number AS revision FROM revision r JOIN parts_list p ON p.id = r.list_id WHERE r.id = $revision`,
    { revision },
  );
  return row && revision ? { ...row, main: row.main === 1, revisionId: revision } : null;
}

/** The optional parts that a draft may choose, or those that were chosen. */
async function optionsOf(
  ctx: Reading,
  build: BuildTableRow,
  whole: FullList | null,
): Promise<BuildSheet["options"]> {
  const { options } = draftOf(build);
  const items = whole ? whole.lines.filter((line) => line.optional).map((line) => line.item) : options;
  const brief = await briefs(ctx, items);
  return [...new Set(items)].map((item) => {
    const { code, name } = brief(item);
    return { item, code, name, chosen: options.includes(item) };
  });
}

/** What a draft would take by the list as it is today. */
function draftLines(build: BuildTableRow, list: FullList): KeptLine[] {
  const quantity = startFor(list, quantityFromWhole(build.wanted));
  return list.lines.map((line, i) => ({
    ...line,
    line: i + 1,
    need: lineNeed(line, list.makes, quantity),
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
  extra: number;
  total: number;
}

/** What was recorded for a build, earliest first, with what each finish cost. */
async function finishes(ctx: Reading, build: number): Promise<FinishRecord[]> {
  const rows = await ctx.sql.all<FinishTableRow>(
    `SELECT f.id, f.posting_id AS posting, o.moment, o.day, n.name AS person, o.reason, f.good, f.rejected, f.lot, f.expiry,
            p.name AS store, f.bin, f.parts, f.work, f.overhead, f.extra, f.total
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
      extra: money(row.extra),
      total: money(row.total),
      each: row.good === 0 ? null : eachOf(row),
    },
  }));
}

function eachOf(row: FinishTableRow): string {
  return moneyFromWhole(row.total).div(quantityFromWhole(row.good)).toFixed(4);
}
