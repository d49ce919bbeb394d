import { type BuildRow, Refusal } from "@yosegi/contract";
import {
  type Decimal,
  type DrawnAt,
  type ListLine,
  quantityFromWhole,
  type Units,
  waitsFor,
} from "@yosegi/core";
import { briefs, LINE_COLUMNS, type LineRow, lineOf } from "../catalog/index.ts";
import { asJson, type BuildTableRow, type Reading } from "../db/index.ts";
import { stockFigures } from "../ledger/index.ts";

/** A line as the build keeps it from the moment it was queued. */
export interface KeptLine extends ListLine {
  line: number;
  need: Decimal;
  used: Decimal;
  open: Decimal;
  drawnAt: DrawnAt;
  /** Id of the store it is taken from; null for the part's home store. */
  store: number | null;
  note: string;
}

export async function buildById(ctx: Reading, id: number): Promise<BuildTableRow> {
  const row = await ctx.models.build.findByPk(id, { transaction: ctx.sql.transaction });
  if (!row) throw new Refusal("not-found", { what: "build", id });
  return row.get({ plain: true });
}

export async function keptLines(ctx: Reading, build: number, units: Units): Promise<KeptLine[]> {
  const rows = await ctx.sql.all<
    LineRow & {
      line: number;
      need: number;
      used: number;
      open: number;
      drawn_at: DrawnAt;
      store: number | null;
      note: string;
    }
  >(
    `SELECT l.line, ${LINE_COLUMNS}, l.need, l.used, l.open, l.drawn_at, l.place_id AS store, l.note
       FROM build_line l JOIN item i ON i.id = l.item_id WHERE l.build_id = $build ORDER BY l.line`,
    { build },
  );
  return rows.map((row) => ({
    ...lineOf(row, units),
    line: row.line,
    drawnAt: row.drawn_at,
    store: row.store,
    note: row.note,
    need: quantityFromWhole(row.need),
    used: quantityFromWhole(row.used),
    open: quantityFromWhole(row.open),
  }));
}

/** Units worked so far: good and rejected. */
export const doneOf = (build: BuildTableRow): Decimal =>
  quantityFromWhole(build.good).plus(quantityFromWhole(build.rejected));

/** Builds as the list shows them: open ones by due day (undated last), then what ended, latest first. */
export async function buildRows(
  ctx: Reading,
  filter: { ids?: readonly number[]; stage?: string },
): Promise<BuildRow[]> {
  const rows = await ctx.sql.all<BuildTableRow>(
    `SELECT * FROM build
      WHERE ($stage = '' OR stage = $stage) AND ($ids = '' OR id IN (SELECT value FROM json_each($ids)))
      ORDER BY stage IN ('finished', 'cancelled'), stage = 'cancelled', COALESCE(finished_at, cancelled_at) DESC, due IS NULL, due, id`,
    { stage: filter.stage ?? "", ids: filter.ids ? asJson(filter.ids) : "" },
  );
  const brief = await briefs(
    ctx,
    rows.map((row) => row.product_id),
  );
  const waiting = await waitingNames(ctx);
  return rows.map((row) => ({
    id: row.id,
    number: row.number,
    product: brief(row.product_id),
    quantity: quantityFromWhole(row.quantity).toFixed(),
    good: quantityFromWhole(row.good).toFixed(),
    rejected: quantityFromWhole(row.rejected).toFixed(),
    stage: row.stage,
    due: row.due,
    waitsFor: waiting(row.id),
  }));
}

/** Names of the parts that each queued build waits for, when all are served in turn. */
async function waitingNames(ctx: Reading): Promise<(build: number) => string[]> {
  const rows = await ctx.sql.all<{ build: number; item: number; open: number; name: string }>(
    `SELECT b.id AS build, l.item_id AS item, l.open, i.name
       FROM build b JOIN build_line l ON l.build_id = b.id AND l.open > 0 JOIN item i ON i.id = l.item_id
      WHERE b.stage = 'queued' ORDER BY b.due IS NULL, b.due, b.id, l.line`,
  );
  const names = new Map(rows.map((row) => [row.item, row.name]));
  const stock = await stockFigures(ctx, names.keys());
  const demands = new Map<number, { id: number; parts: { item: number; open: Decimal }[] }>();
  for (const { build, item, open } of rows) {
    const demand = demands.get(build) ?? { id: build, parts: [] };
    demand.parts.push({ item, open: quantityFromWhole(open) });
    demands.set(build, demand);
  }
  const waiting = waitsFor([...demands.values()], (item) => stock(item).onHand.minus(stock(item).expired));
  return (build) => (waiting.get(build) ?? []).map((item) => names.get(item) ?? "");
}
