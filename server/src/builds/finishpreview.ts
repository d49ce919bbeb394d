import type { FinishPreview } from "@yosegi/contract";
import {
  type Decimal,
  type Finish,
  type FinishedLine,
  free,
  quantityFromScaled,
  sum,
  ZERO,
} from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { stockFigures } from "../ledger/index.ts";
import type { FinishFigures } from "./finishchecks.ts";
import { lineAfter, type Planned, planOf } from "./planning.ts";
import type { StoredLine } from "./rows.ts";
import { shortsOf } from "./short.ts";
import type { BuildTableRow } from "./tables.ts";

/** What a finish with these figures would take and cost; records nothing. */
export async function previewFinish(ctx: Reading, id: number, body: FinishFigures): Promise<FinishPreview> {
  const planned = await planOf(ctx, id, body, true);
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
