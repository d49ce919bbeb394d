import { type FinishPreview, type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  buildOwner,
  type Counted,
  checkDecimals,
  type Decimal,
  type Finish,
  type FinishBooks,
  type FinishedLine,
  type FinishPlan,
  free,
  max,
  moneyFromScaled,
  needUnit,
  type Problem,
  planFinish,
  quantityFromScaled,
  type Rate,
  rateOf,
  reporter,
  type StockState,
  sameOwner,
  spotKey,
  sum,
  type Tracking,
  type Unit,
  type Units,
  ZERO,
} from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { loadBooks, serialsElsewhere, stockFigures, storeIds } from "../ledger/index.ts";
import { currentCosts, LINE_COLUMNS, type LineRow, lineOf } from "../lists/index.ts";
import { refuseProblems } from "../problems.ts";
import { homeOf, sourcesOf } from "./bench.ts";
import { feeOf } from "./fee.ts";
import {
  buildWithProduct,
  doneOf,
  type FinishedProduct,
  openOf,
  refuseStage,
  type StoredLine,
  storedLines,
} from "./rows.ts";
import { shortsOf } from "./short.ts";
import type { BuildTableRow } from "./tables.ts";

type Figures = ParsedBody<typeof routes.previewFinish>;

export interface Planned {
  build: BuildTableRow;
  product: FinishedProduct;
  /** The build's own lines, then those that this finish adds. */
  lines: StoredLine[];
  finish: Finish;
  plan: FinishPlan;
  /** What the books hold of the parts and of the product, before it. */
  books: StockState;
}

/** What a finish with these figures would take and cost; records nothing. */
export async function previewFinish(ctx: Reading, id: number, body: Figures): Promise<FinishPreview> {
  const planned = await planOf(ctx, id, body);
  const { plan } = planned;
  const locations = await ctx.sql.all<{ id: number; name: string }>("SELECT id, name FROM location_head");
  const nameOf = new Map(locations.map((location) => [location.id, location.name]));
  return {
    lines: plan.lines.map((line) => ({
      line: line.line,
      item: line.item,
      planned: line.planned.toFixed(),
      used: line.used.toFixed(),
      scrapped: line.scrapped.toFixed(),
      difference: line.difference.toFixed(),
      fromBench: line.fromBench.toFixed(),
      back: line.back.toFixed(),
      cost: line.cost.toFixed(4),
      differenceCost: line.differenceCost.toFixed(4),
      taken: line.taken.map((t) => ({
        store: nameOf.get(t.from.location) ?? "",
        bin: t.from.bin,
        lot: t.lot,
        serial: t.serial,
        quantity: t.quantity.toFixed(),
      })),
    })),
    cost: plan.ok
      ? {
          parts: plan.cost.parts.toFixed(4),
          work: plan.cost.work.toFixed(4),
          overhead: plan.cost.overhead.toFixed(4),
          extra: plan.cost.extra.toFixed(4),
          subcontractor: plan.cost.subcontractor.toFixed(4),
          total: plan.cost.total.toFixed(4),
          each: plan.cost.each?.toFixed(4) ?? null,
        }
      : null,
    shorts: plan.ok ? [] : await shortsOf(ctx, plan.shorts),
    largest: plan.ok ? null : plan.largest.toFixed(),
    ...(await warnings(ctx, planned)),
  };
}

/** What a person wants to know before recording: parts without a cost, and parts below their reorder level after it. */
async function warnings(
  ctx: Reading,
  { build, lines, finish, plan }: Planned,
): Promise<Pick<FinishPreview, "noCost" | "low">> {
  if (!plan.ok) return { noCost: [], low: [] };
  const stocked = lines.filter((line) => line.stocked);
  const items = [...new Set(stocked.map((line) => line.item))];
  const brief = await briefs(ctx, items);
  const stock = await stockFigures(ctx, items);
  const levels = new Map(
    (
      await ctx.sql.all<{ id: number; level: number }>(
        `SELECT i.id, i.reorder_level AS level FROM json_each($ids) ids JOIN item_head i ON i.id = ids.value
          WHERE i.reorder_level IS NOT NULL`,
        { ids: asJson(items) },
      )
    ).map((row) => [row.id, quantityFromScaled(row.level)]),
  );
  const used = new Map(plan.lines.map((line) => [line.line, line]));
  const noCost = plan.lines.filter(
    (line) => line.used.gt(0) && line.cost.eq(0) && stocked.some((s) => s.line === line.line),
  );
  const low = items.flatMap((item) => {
    const level = levels.get(item);
    if (!level) return [];
    const own = stocked.filter((line) => line.item === item);
    const change = sum(own.map((line) => freeChange(build, finish, line, used.get(line.line))));
    const counted = sum(
      plan.counts.map((m) => (m.item !== item ? ZERO : m.to ? m.quantity : ZERO.minus(m.quantity))),
    );
    const after = free(stock(item)).plus(change).plus(counted);
    const { name, unit } = brief(item);
    return after.lt(level) ? [{ name, free: after.toFixed(), level: level.toFixed(), unit }] : [];
  });
  return { noCost: [...new Set(noCost.map((line) => brief(line.item).name))], low };
}

/** By how much a line's finish changes what is free: what leaves the stores, less what it no longer reserves. */
function freeChange(
  build: BuildTableRow,
  finish: Finish,
  line: StoredLine,
  used: FinishedLine | undefined,
): Decimal {
  if (!used) return ZERO;
  const left = lineAfter(build, finish, line, used);
  return line.open.minus(left.open).minus(used.used.minus(used.fromBench)).plus(used.back);
}

/** What of a line lies on the bench after a finish, and what it still reserves. */
export function lineAfter(
  build: BuildTableRow,
  finish: Finish,
  line: StoredLine,
  used: Pick<FinishedLine, "fromBench" | "back">,
): { bench: Decimal; open: Decimal } {
  const done = finish.done.plus(finish.good).plus(finish.rejected);
  const bench = line.bench.minus(used.fromBench).minus(used.back);
  const ends = finish.closes || done.gte(finish.planned);
  return { bench, open: ends ? ZERO : openOf(build, line, bench, done) };
}

/** Reads what a finish needs, checks its figures, and plans it. */
export async function planOf(ctx: Reading, id: number, body: Figures): Promise<Planned> {
  const heading = buildWithProduct(ctx, id);
  const [{ build, product, units }, own] = await Promise.all([
    heading,
    storedLines(
      ctx,
      id,
      heading.then((found) => found.units),
    ),
  ]);
  refuseStage(build, "finish");
  const { makes, overhead } = build;
  if (makes === null || overhead === null) throw new Error(`${build.number} was queued without its list`);
  const lines = [...own, ...(await addedLines(ctx, own, body, units))];
  checkFigures(build, product.unit, lines, own.length, body);

  const usedOf = usedByLine(body, own);
  const [unitCost, books, charged, fee] = await Promise.all([
    costsFor(ctx, lines, usedOf, body),
    booksFor(ctx, build, lines),
    chargedSoFar(ctx, build),
    feeOf(ctx, build),
  ]);
  const finish: Finish = {
    build: id,
    makes: quantityFromScaled(makes),
    overhead: moneyFromScaled(overhead),
    extra: moneyFromScaled(build.extra - charged.extra),
    subcontractor: max(ZERO, fee.total.minus(moneyFromScaled(charged.subcontractor))),
    closes: body.closeRest,
    returnToStock: body.returnToStock,
    productUnit: product.unit,
    planned: quantityFromScaled(build.quantity),
    done: doneOf(build),
    good: body.good,
    rejected: body.rejected,
    day: body.day,
    lines: lines.map((line) => ({
      ...line,
      used: null,
      scrapped: ZERO,
      only: [],
      ...usedOf(line),
      unitCost: unitCost(line.item),
    })),
    counts: await countsOf(ctx, body, lines, unitCost, books.stock),
  };
  return { build, product, lines, finish, plan: planFinish(finish, books), books: books.stock };
}

/**
 * Current unit costs, as far as a finish asks for them: of work, of what is not stocked or not used, and of what is
 * counted. What is used of stock tells its cost itself.
 */
async function costsFor(
  ctx: Reading,
  lines: readonly StoredLine[],
  usedOf: ReturnType<typeof usedByLine>,
  body: Figures,
): Promise<(item: number) => Rate | null> {
  const charged = lines.filter((line) => !line.stocked || usedOf(line).used?.eq(0)).map((line) => line.item);
  const items = [...charged, ...body.counts.map((count) => count.item)];
  return items.length === 0 ? () => null : currentCosts(ctx, items);
}

async function booksFor(
  ctx: Reading,
  build: BuildTableRow,
  lines: readonly StoredLine[],
): Promise<FinishBooks> {
  const stocked = lines.filter((l) => l.stocked);
  const { stock, ready, bench } = await loadBooks(ctx, [build.product_id, ...stocked.map((l) => l.item)]);
  const own = bench.filter((balance) => sameOwner(balance.owner, buildOwner(build.id)));
  const none = own.length === 0;
  return {
    stock,
    ready,
    bench: own,
    sources: none ? [] : await sourcesOf(ctx, build),
    home: none ? neverAsked : await homeOf(ctx, stocked),
  };
}

const neverAsked = (item: number): never => {
  throw new Error(`Nothing lies on the bench, yet item ${item} is put back`);
};

/** What the person says of each line: work adds up from who did it; a figure of its own must agree with that. */
function usedByLine(body: Figures, own: readonly StoredLine[]) {
  const byLine = new Map(body.lines.map((line) => [line.line, line]));
  return (line: StoredLine) => {
    const worked = body.work.filter((entry) => entry.line === line.line);
    const given = line.line > lastOf(own) ? body.extra[line.line - lastOf(own) - 1] : byLine.get(line.line);
    return {
      ...(given && { used: given.used, scrapped: given.scrapped, only: given.only }),
      ...(worked.length > 0 && !given && { used: sum(worked.map((entry) => entry.quantity)) }),
    };
  };
}

const lastOf = (lines: readonly StoredLine[]): number => Math.max(0, ...lines.map((line) => line.line));

/** Lines for parts that are not on the list: numbered after the build's own, planned for nothing. */
async function addedLines(
  ctx: Reading,
  own: readonly StoredLine[],
  body: Figures,
  units: Units,
): Promise<StoredLine[]> {
  if (body.extra.length === 0) return [];
  const rows = await ctx.sql.all<LineRow & { code: string }>(
    `SELECT ${LINE_COLUMNS}, i.code FROM (SELECT i.id AS item_id, 0 AS quantity, i.unit, 0 AS waste, 0 AS once
       FROM json_each($ids) ids JOIN item_head i ON i.id = ids.value) l JOIN item_head i ON i.id = l.item_id`,
    { ids: asJson(new Set(body.extra.map((entry) => entry.item))) },
  );
  return body.extra.map((entry, i): StoredLine => {
    const row = rows.find((r) => r.item === entry.item);
    if (!row) throw Refusal.at(`extra.${i}.item`, "not-found", { what: "item", id: entry.item });
    if (row.kind === "kit") throw Refusal.at(`extra.${i}.item`, "part-is-kit", { code: row.code });
    const { insteadOf } = entry;
    if (insteadOf !== null && !own.some((line) => line.line === insteadOf))
      throw Refusal.at(`extra.${i}.insteadOf`, "line-unknown", { line: insteadOf });
    return {
      ...lineOf(row, units),
      line: lastOf(own) + 1 + i,
      need: ZERO,
      used: ZERO,
      scrapped: ZERO,
      open: ZERO,
      bench: ZERO,
      drawnAt: "finish",
      store: null,
      note: "",
      listLine: null,
      added: true,
      insteadOf,
    };
  });
}

/** What was counted, as the core takes it. */
async function countsOf(
  ctx: Reading,
  body: Figures,
  lines: readonly StoredLine[],
  unitCost: (item: number) => Rate | null,
  stock: StockState,
): Promise<Counted[]> {
  if (body.counts.length === 0) return [];
  const stores = await storeIds(ctx);
  const lots = await ctx.sql.all<{ item: number; lot: string; expiry: string | null }>(
    "SELECT item_id AS item, code AS lot, expiry FROM lot_head WHERE item_id IN (SELECT value FROM json_each($ids))",
    { ids: asJson(new Set(body.counts.map((count) => count.item))) },
  );
  const brief = await briefs(
    ctx,
    body.counts.map((count) => count.item),
  );
  const known = await ctx.sql.all<{ location: number; code: string }>(
    "SELECT location_id AS location, code FROM bin_head",
  );
  const bins = new Set(known.map(({ location, code }) => `${location} ${code}`));
  const serials = body.counts.filter((count) => count.serial !== "");
  const elsewhere = await serialsElsewhere(ctx, serials, "counted");
  return body.counts.map((count, i) => {
    const at = (field: string) => `counts.${i}.${field}`;
    const line = lines.find((l) => l.item === count.item && l.stocked);
    const { code, tracking } = brief(count.item);
    if (!line) throw Refusal.at(at("item"), "count-not-part", { code });
    const location = stores(count.store);
    if (location === null) throw Refusal.at(at("store"), "store-unknown", { store: count.store });
    if (!count.newBin && count.bin !== "" && !bins.has(`${location} ${count.bin}`))
      throw Refusal.at(at("bin"), "bin-unknown", { store: count.store, bin: count.bin });
    const problems: Problem[] = [];
    checkDecimals(at("there"), count.there, line.stockUnit, reporter(0, problems));
    refuseProblems(problems, (p) => p.field);
    const known = lots.find((l) => l.item === count.item && l.lot === count.lot);
    refuseTracking(at, count, { code, tracking, lotKnown: known !== undefined });
    const { item, lot, serial } = count;
    const books =
      stock.balances.get(spotKey({ item, lot, serial, location, bin: count.bin }))?.quantity ?? ZERO;
    // A unit that is elsewhere can't be found here, unless it is counted away there in the same step.
    const moved = body.counts.some((c) => c !== count && c.serial === serial && c.there.eq(0));
    const where = elsewhere({ item, serial });
    if (where !== null && !moved && count.there.gt(books))
      throw Refusal.at(at("serial"), "serial-elsewhere", { serial, where });
    const worth = count.cost === null ? unitCost(count.item) : rateOf(count.cost);
    if (worth === null) throw Refusal.at(at("cost"), "cost-needed", { code });
    return {
      item: count.item,
      lot: count.lot,
      serial: count.serial,
      at: { location, bin: count.bin },
      there: count.there,
      expiry: known?.expiry ?? null,
      unitCost: worth,
      reason: count.reason,
    };
  });
}

/** A count names a lot or a serial where its item has such, and only there. */
function refuseTracking(
  at: (field: string) => string,
  { lot, serial, there }: Figures["counts"][number],
  { code, tracking, lotKnown }: { code: string; tracking: Tracking; lotKnown: boolean },
): void {
  if (tracking === "lot" && !lotKnown) throw Refusal.at(at("lot"), "lot-needed", { code });
  if (tracking !== "lot" && lot !== "") throw Refusal.at(at("lot"), "lot-not-tracked", { code });
  if (tracking === "serial" && serial === "") throw Refusal.at(at("serial"), "serial-needed", { code });
  if (tracking !== "serial" && serial !== "") throw Refusal.at(at("serial"), "serial-not-tracked", { code });
  if (tracking === "serial" && there.gt(1)) throw Refusal.at(at("there"), "serial-one", { serial });
}

/** What earlier finishes bore of the build's extra cost and of its workshop's fee. */
async function chargedSoFar(
  ctx: Reading,
  { id, extra, subcontractor_id }: BuildTableRow,
): Promise<{ extra: number; subcontractor: number }> {
  if (extra === 0 && subcontractor_id === null) return { extra: 0, subcontractor: 0 };
  const row = await ctx.sql.one<{ extra: number; subcontractor: number }>(
    `SELECT COALESCE(SUM(extra), 0) AS extra, COALESCE(SUM(fee), 0) AS subcontractor
       FROM finish WHERE build_id = $id AND undone_at IS NULL`,
    { id },
  );
  return row ?? { extra: 0, subcontractor: 0 };
}

function checkFigures(
  build: BuildTableRow,
  productUnit: Pick<Unit, "code" | "decimals">,
  lines: readonly StoredLine[],
  own: number,
  body: Figures,
): void {
  const problems: Problem[] = [];
  const report = reporter(0, problems);
  checkDecimals("good", body.good, productUnit, report);
  checkDecimals("rejected", body.rejected, productUnit, report);
  for (const [i, entry] of body.lines.entries()) {
    const kept = lines.find((l) => l.line === entry.line && !isExtra(lines, own, l));
    if (!kept) throw Refusal.at(`lines.${i}.line`, "line-unknown", { line: entry.line });
    checkUsed(`lines.${i}`, entry, kept, report);
  }
  for (const [i, entry] of body.extra.entries()) {
    const added = lines[own + i];
    if (added) checkUsed(`extra.${i}`, entry, added, report);
  }
  refuseProblems(problems, (p) => p.field);
  checkWork(lines, body);
  const worked = body.good.plus(body.rejected);
  const open = quantityFromScaled(build.quantity).minus(doneOf(build));
  if (worked.eq(0)) throw Refusal.at("good", "build-empty");
  if (worked.gt(open))
    throw Refusal.at("good", "build-too-many", { open: open.toFixed(), unit: productUnit.code });
}

const isExtra = (lines: readonly StoredLine[], own: number, line: StoredLine): boolean =>
  lines.indexOf(line) >= own;

function checkUsed(
  field: string,
  { used, scrapped }: { used: Decimal; scrapped: Decimal },
  line: StoredLine,
  report: ReturnType<typeof reporter>,
): void {
  checkDecimals(`${field}.used`, used, needUnit(line), report);
  checkDecimals(`${field}.scrapped`, scrapped, needUnit(line), report);
  if (scrapped.gt(used))
    throw Refusal.at(`${field}.scrapped`, "scrapped-too-much", {
      used: used.toFixed(),
      unit: needUnit(line).code,
    });
}

/** Who worked how long: on a line of work, and adding up to what is said to be used of it. */
function checkWork(lines: readonly StoredLine[], body: Figures): void {
  for (const [i, entry] of body.work.entries()) {
    const line = lines.find((l) => l.line === entry.line);
    if (!line?.service) throw Refusal.at(`work.${i}.line`, "line-unknown", { line: entry.line });
    const given = body.lines.find((l) => l.line === entry.line);
    const total = sum(body.work.filter((w) => w.line === entry.line).map((w) => w.quantity));
    if (given && !total.eq(given.used))
      throw Refusal.at(`work.${i}.quantity`, "work-sum", {
        given: total.toFixed(),
        used: given.used.toFixed(),
        unit: needUnit(line).code,
      });
  }
}
