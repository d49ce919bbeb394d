import { type BuildRow, type BuildSummary, Refusal } from "@yosegi/contract";
import {
  type BuildStep,
  buildState,
  type Day,
  type Decimal,
  type DrawnAt,
  isWorked,
  type ListLine,
  mayBuild,
  quantityFromScaled,
  startDay,
  stillToTake,
  type Tracking,
  type Unit,
  type Units,
  waitsFor,
} from "@yosegi/core";
import { ordersOf } from "../allocations/index.ts";
import { asJson, findPage, type PageQuery, type Reading } from "../db/index.ts";
import { briefs, UNITS, unitsFrom } from "../items/index.ts";
import { stockRows, usableOf } from "../ledger/index.ts";
import { LINE_COLUMNS, type LineRow, lineOf } from "../lists/index.ts";
import type { BuildTableRow } from "./tables.ts";

const DONE_WORDS: Record<BuildStep, string> = {
  change: "changed",
  plan: "changed",
  parts: "given parts of its own",
  queue: "queued",
  unqueue: "moved back to draft",
  handOut: "handed out",
  returnToStock: "put back",
  finish: "finished",
  undo: "undone",
  split: "split",
  join: "joined",
  cancel: "cancelled",
};

/** Refuses a step that the build's stage does not allow. */
export function refuseStage(build: BuildTableRow, step: BuildStep): void {
  if (!mayBuild(step, build.stage))
    throw new Refusal("stage-wrong", { number: build.number, stage: build.stage, step: DONE_WORDS[step] });
}

/** A line as the build keeps it from the moment it was queued. */
export interface StoredLine extends ListLine {
  line: number;
  need: Decimal;
  used: Decimal;
  scrapped: Decimal;
  open: Decimal;
  /** Handed out and not used yet. */
  bench: Decimal;
  drawnAt: DrawnAt;
  /** Id of the store it is taken from; null for the part's home store. */
  store: number | null;
  note: string;
  /** The line of the revision it comes from; null where it was kept without, or came in at a finish. */
  listLine: number | null;
  added: boolean;
  insteadOf: number | null;
  /** Of the part of line `insteadOf`, how much it stands in for since a picker took it; zero where it can't be given back. */
  replaces: Decimal;
}

export async function buildById(ctx: Reading, id: number): Promise<BuildTableRow> {
  const row = (await buildsById(ctx, [id])).get(id);
  if (!row) throw new Refusal("not-found", { what: "build", id });
  return row;
}

/** The builds there are of those ids. */
export async function buildsById(ctx: Reading, ids: Iterable<number>): Promise<Map<number, BuildTableRow>> {
  const rows = await ctx.sql.all<BuildTableRow>(
    "SELECT * FROM build WHERE id IN (SELECT value FROM json_each($ids))",
    { ids: asJson(new Set(ids)) },
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** What a finish has to know of the product. */
export interface FinishedProduct {
  id: number;
  code: string;
  tracking: Tracking;
  unit: Pick<Unit, "code" | "decimals">;
  /** Kept on the books: what is not never comes into stock. */
  stocked: boolean;
}

/** A build with its product, and the units its figures are told in, in one question. */
export async function buildWithProduct(
  ctx: Reading,
  id: number,
): Promise<{ build: BuildTableRow; product: FinishedProduct; units: Units }> {
  const row = await ctx.sql.one<BuildTableRow & { product: string; units: string }>(
    `SELECT b.*, json_object('id', i.id, 'code', i.code, 'tracking', i.tracking, 'notStockTracked', i.not_stock_tracked,
                             'unit', json_object('code', i.unit, 'decimals', i.decimals)) AS product, ${UNITS} AS units
       FROM build b JOIN item_head i ON i.id = b.product_id WHERE b.id = $id`,
    { id },
  );
  if (!row) throw new Refusal("not-found", { what: "build", id });
  const { product, units, ...build } = row;
  const { notStockTracked, ...found } = JSON.parse(product);
  return { build, product: { ...found, stocked: notStockTracked === 0 }, units: unitsFrom(units) };
}

interface StoredRow extends LineRow {
  build: number;
  line: number;
  need: number;
  used: number;
  scrapped: number;
  open: number;
  bench: number;
  drawn_at: DrawnAt;
  store: number | null;
  note: string;
  list_line: number | null;
  added: number;
  instead_of: number | null;
  replaces: number;
}

/** The lines that each of some builds keeps. Units may still be on their way, so that both are read at once. */
export async function linesOfBuilds(
  ctx: Reading,
  builds: readonly number[],
  units: Units | Promise<Units>,
): Promise<Map<number, StoredLine[]>> {
  // Both are waited for from the start: a promise that fails while nobody waits for it ends the process.
  const [rows, known] = await Promise.all([
    ctx.sql.all<StoredRow>(
      `SELECT l.build_id AS build, l.line, ${LINE_COLUMNS}, l.need, l.used, l.scrapped AS scrapped, l.open, l.bench, l.drawn_at,
              l.location_id AS store, l.note, l.list_line, l.added, l.instead_of, l.replaces
         FROM json_each($builds) ids JOIN build_line l ON l.build_id = ids.value JOIN item_head i ON i.id = l.item_id
        ORDER BY l.build_id, l.line`,
      { builds: asJson(builds) },
    ),
    units,
  ]);
  const lines = new Map<number, StoredLine[]>(builds.map((build) => [build, []]));
  for (const row of rows)
    lines.get(row.build)?.push({
      ...lineOf(row, known),
      line: row.line,
      drawnAt: row.drawn_at,
      store: row.store,
      note: row.note,
      listLine: row.list_line,
      added: row.added === 1,
      insteadOf: row.instead_of,
      replaces: quantityFromScaled(row.replaces),
      need: quantityFromScaled(row.need),
      used: quantityFromScaled(row.used),
      scrapped: quantityFromScaled(row.scrapped),
      open: quantityFromScaled(row.open),
      bench: quantityFromScaled(row.bench),
    });
  return lines;
}

/** The lines that one build keeps. */
export async function storedLines(
  ctx: Reading,
  build: number,
  units: Units | Promise<Units>,
): Promise<StoredLine[]> {
  return (await linesOfBuilds(ctx, [build], units)).get(build) ?? [];
}

/** Units worked so far: good and rejected. */
export const doneOf = (build: Pick<BuildTableRow, "good" | "rejected">): Decimal =>
  quantityFromScaled(build.good).plus(quantityFromScaled(build.rejected));

/** What a line of a build still reserves (docs/rules.md § 3), with so much on its bench when so many units are done. */
export function openOf(
  build: Pick<BuildTableRow, "quantity" | "makes" | "good" | "rejected">,
  line: ListLine,
  bench: Decimal,
  done: Decimal = doneOf(build),
): Decimal {
  const units = quantityFromScaled(build.quantity);
  const progress = { done, benchOf: () => bench };
  return stillToTake(line, quantityFromScaled(build.makes ?? 0), progress, units.minus(done));
}

/** Good units that can still come of a build, as the database keeps them. */
export async function toComeOf(ctx: Reading, build: number): Promise<Decimal> {
  const row = await ctx.sql.one<{ toCome: number }>(
    "SELECT to_come AS toCome FROM build_output WHERE build_id = $build",
    { build },
  );
  return quantityFromScaled(row?.toCome ?? 0);
}

export interface BuildFilter {
  stage?: string | undefined;
  product?: number | undefined;
  person?: number | undefined;
  tag?: string | undefined;
  /** Due in this span of days. */
  from?: Day | undefined;
  until?: Day | undefined;
  undated?: boolean | undefined;
  open?: boolean | undefined;
  state?: OpenState | undefined;
}

interface ListedRow extends BuildTableRow {
  build_days: number | null;
  person: string | null;
  customer: string | null;
  workshop: string | null;
  begun: number;
}

const firm = (name: string) => `json_object('id', ${name}.id, 'code', ${name}.code, 'name', ${name}.name)`;

const FILTER = `($stage = '' OR b.stage = $stage) AND ($product = 0 OR b.product_id = $product)
        AND ($person = 0 OR b.assigned_to = $person) AND ($tag = '' OR b.cost_tag = $tag)
        AND ($from = '' OR b.due >= $from) AND ($until = '' OR b.due <= $until) AND ($undated = 0 OR b.due IS NULL)
        AND ($open = 0 OR b.stage NOT IN ('finished', 'cancelled'))`;

const filterOf = (filter: BuildFilter) => ({
  stage: filter.stage ?? "",
  product: filter.product ?? 0,
  person: filter.person ?? 0,
  tag: filter.tag ?? "",
  from: filter.from ?? "",
  until: filter.until ?? "",
  undated: filter.undated ? 1 : 0,
  open: filter.open ? 1 : 0,
});

async function listedRows(ctx: Reading, ids: readonly number[]): Promise<ListedRow[]> {
  return ctx.sql.all<ListedRow>(
    `SELECT b.*, i.build_days, n.name AS person, ${firm("c")} AS customer, ${firm("o")} AS workshop,
            b.good + b.rejected > 0 OR b.stage = 'on the bench' AS begun
       FROM json_each($ids) ids JOIN build b ON b.id = ids.value JOIN item_head i ON i.id = b.product_id
       LEFT JOIN person_name n ON n.id = b.assigned_to
       LEFT JOIN firm_head c ON c.id = b.customer_id LEFT JOIN firm_head o ON o.id = b.subcontractor_id
      ORDER BY ids.key`,
    { ids: asJson(ids) },
  );
}

/** A page of builds: open ones by due day (undated last), then what ended, latest first. */
export async function findBuilds(
  ctx: Reading,
  filter: BuildFilter & PageQuery,
): Promise<{ builds: BuildRow[]; total: number; next: string | null }> {
  const { state } = filter;
  const named = state && (await openStates(ctx)).filter((own) => own.state[state]).map(({ id }) => id);
  const { ids, total, next } = await findPage(ctx.sql, filter, {
    id: "b.id",
    text: `b.number || ' ' || i.code || ' ' || i.name || ' ' || b.cost_tag || ' ' || COALESCE(c.name, '') || ' ' || COALESCE(
           (SELECT group_concat(a.number || ' ' || a.customer_name, ' ') FROM allocated_order a WHERE a.build_id = b.id), '')`,
    from: `build b JOIN item_head i ON i.id = b.product_id LEFT JOIN firm_head c ON c.id = b.customer_id WHERE ${FILTER}
        AND ($all = 1 OR b.id IN (SELECT value FROM json_each($named)))
      ORDER BY b.stage IN ('finished', 'cancelled'), b.stage = 'cancelled', COALESCE(b.finished_at, b.cancelled_at) DESC,
               b.due IS NULL, b.due, b.priority, b.id`,
    bind: { ...filterOf(filter), all: named === undefined ? 1 : 0, named: asJson(named ?? []) },
  });
  return { builds: await buildRows(ctx, ids), total, next };
}

/** What is a build's own of its row in the list. */
async function ownOf(ctx: Reading, rows: readonly ListedRow[]): Promise<BuildSummary[]> {
  const brief = await briefs(
    ctx,
    rows.map((row) => row.product_id),
  );
  const orders = await ordersOf(
    ctx,
    rows.map((row) => row.id),
  );
  return rows.map((row) => ({
    id: row.id,
    number: row.number,
    product: brief(row.product_id),
    quantity: quantityFromScaled(row.quantity).toFixed(),
    good: quantityFromScaled(row.good).toFixed(),
    rejected: quantityFromScaled(row.rejected).toFixed(),
    stage: row.stage,
    due: row.due,
    start: startDay({ day: row.due, buildDays: row.build_days ?? 0 }),
    priority: row.priority,
    assigned: row.assigned_to === null ? null : { id: row.assigned_to, name: row.person ?? "" },
    costTag: row.cost_tag,
    customer: row.customer_id === null ? null : JSON.parse(row.customer ?? ""),
    orders: orders(row.id),
    subcontractor: row.subcontractor_id === null ? null : JSON.parse(row.workshop ?? ""),
    recurring: row.recurring_id !== null,
  }));
}

/** Builds as the list shows them, in the order of the ids. */
export async function buildRows(ctx: Reading, ids: readonly number[]): Promise<BuildRow[]> {
  const rows = await listedRows(ctx, ids);
  const worked = rows.filter((row) => isWorked(row.stage)).map((row) => row.id);
  const waiting = await waitingNames(ctx, worked);
  const own = await ownOf(ctx, rows);
  return own.map((build, i) => {
    const waitsFor = waiting(build.id);
    const begun = rows[i]?.begun === 1;
    return { ...build, waitsFor, ...buildState({ ...build, begun }, waitsFor.length > 0, ctx.today) };
  });
}

/**
 * Names of the parts that builds wait for, when all that are queued or on the bench are served in turn. A part is claimed
 * by itself, so only the parts of the builds asked for are read.
 */
async function waitingNames(ctx: Reading, builds: readonly number[]): Promise<(build: number) => string[]> {
  if (builds.length === 0) return () => [];
  const rows = await ctx.sql.all<{ build: number; item: number; open: number; name: string }>(
    `SELECT b.id AS build, l.item_id AS item, l.open, i.name
       FROM build b JOIN build_line l ON l.build_id = b.id AND l.open > 0 JOIN item_head i ON i.id = l.item_id
      WHERE b.stage IN ('queued', 'on the bench')
        AND l.item_id IN (SELECT item_id FROM build_line WHERE open > 0 AND build_id IN (SELECT value FROM json_each($builds)))
      ORDER BY b.due IS NULL, b.due, b.priority, b.id, l.line`,
    { builds: asJson(builds) },
  );
  const names = new Map(rows.map((row) => [row.item, row.name]));
  const stock = await stockRows(ctx, names.keys());
  const demands = new Map<number, { id: number; parts: { item: number; open: number }[] }>();
  for (const { build, item, open } of rows) {
    const demand = demands.get(build) ?? { id: build, parts: [] };
    demand.parts.push({ item, open });
    demands.set(build, demand);
  }
  const waiting = waitsFor([...demands.values()], (item) => usableOf(stock(item)));
  return (build) => (waiting.get(build) ?? []).map((item) => names.get(item) ?? "");
}

/** One build as the list shows it. */
export async function buildRow(ctx: Reading, id: number): Promise<BuildRow> {
  const [row] = await buildRows(ctx, [id]);
  if (!row) throw new Error(`Build ${id} was there and is not`);
  return row;
}

/** A build as a step left it: what waits for what is not figured, for every other build has its part in that. */
export async function buildSummary(ctx: Reading, id: number): Promise<BuildSummary> {
  const [build] = await ownOf(ctx, await listedRows(ctx, [id]));
  if (!build) throw new Error(`Build ${id} was there and is not`);
  return build;
}

type OpenState = "overdue" | "ready" | "blocked";

/** How the open builds stand; one source for what is counted and what is listed. */
async function openStates(ctx: Reading): Promise<{ id: number; state: Record<OpenState, boolean> }[]> {
  const rows = await ctx.sql.all<{ id: number; stage: BuildTableRow["stage"]; due: string | null }>(
    "SELECT id, stage, due FROM build WHERE stage IN ('draft', 'queued', 'on the bench')",
  );
  const waiting = await waitingNames(
    ctx,
    rows.filter((row) => isWorked(row.stage)).map((row) => row.id),
  );
  return rows.map((row) => ({
    id: row.id,
    state: buildState({ ...row, start: null, begun: false }, waiting(row.id).length > 0, ctx.today),
  }));
}

/** How many builds are open, and how many of them are overdue, ready or blocked. */
export async function openCounts(ctx: Reading): Promise<Record<"builds" | OpenState, number>> {
  const builds = await openStates(ctx);
  const count = (what: OpenState) => builds.filter(({ state }) => state[what]).length;
  return {
    builds: builds.length,
    overdue: count("overdue"),
    ready: count("ready"),
    blocked: count("blocked"),
  };
}
