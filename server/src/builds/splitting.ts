import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  compareDays,
  type Day,
  type Decimal,
  divideDown,
  lineNeed,
  max,
  min,
  nextNeed,
  quantityFromScaled,
  quantityToScaled,
  step,
  ZERO,
} from "@yosegi/core";
import { shareLinks, takeLinks } from "../allocations/index.ts";
import type { Reading, Writing } from "../db/index.ts";
import { moveBuildFiles } from "../files/index.ts";
import { itemById, loadUnits, unitNamed } from "../items/index.ts";
import { moveBench } from "./bench.ts";
import { draftOf } from "./content.ts";
import { insertStored, storedColumns } from "./lines.ts";
import { buildById, doneOf, openOf, refuseStage, type StoredLine, storedLines, toComeOf } from "./rows.ts";
import { changePlan, checkQuantity, insertBuild, makeDraft } from "./steps.ts";
import type { BuildTableRow } from "./tables.ts";
import { BUILD, BUILD_LINE } from "./tables.ts";

/** What a build says of when, by whom, for whom and where to. */
const headingOf = (build: BuildTableRow) => ({
  due: build.due,
  note: build.note,
  priority: build.priority,
  costTag: build.cost_tag,
  bin: build.bin,
  assigned: build.assigned_to,
  customer: build.customer_id,
  subcontractor: build.subcontractor_id,
  location: build.location_id,
});

/** Makes a draft like an earlier build, by its list or by what it really used. Gives its id. */
export async function copyBuild(
  ctx: Writing,
  id: number,
  { quantity, due, actual }: ParsedBody<typeof routes.copyBuild>,
): Promise<number> {
  const build = await buildById(ctx, id);
  if (actual && doneOf(build).eq(0)) throw Refusal.at("actual", "nothing-used", { number: build.number });
  const { list, options, own } = draftOf(build);
  const origin = own === null ? {} : { own };
  return makeDraft(
    ctx,
    { ...headingOf(build), product: build.product_id, quantity, due, list, options, parts: null },
    actual ? { asBuilt: id } : origin,
  );
}

/**
 * Splits so many off into a build of their own: it takes what a build of so many takes, once-per-build lines and extra
 * cost among it. What lies on the bench and the first does not need goes with it. Gives the new one's id.
 */
export async function splitBuild(ctx: Writing, id: number, off: Decimal): Promise<number> {
  const build = await buildById(ctx, id);
  refuseStage(build, "split");
  const product = await itemById(ctx, build.product_id);
  await checkQuantity(ctx, product, off);
  const open = restOf(build);
  const most = build.stage === "draft" ? quantityFromScaled(build.wanted) : open;
  if (off.gte(most))
    throw Refusal.at("quantity", "split-too-many", {
      number: build.number,
      open: most.toFixed(),
      unit: product.unit,
    });
  const made = await (build.stage === "draft"
    ? splitDraft(ctx, build, off)
    : splitWork(ctx, build, off, product.unit));
  await shareLinks(ctx, id, made);
  return made;
}

async function splitDraft(ctx: Writing, build: BuildTableRow, off: Decimal): Promise<number> {
  const plan = { ...headingOf(build), ...draftOf(build) };
  const left = quantityFromScaled(build.wanted).minus(off);
  await changePlan(ctx, build.id, { ...plan, quantity: left });
  return makeDraft(
    ctx,
    { ...plan, product: build.product_id, quantity: off, parts: null },
    {
      splitFrom: build.id,
      ...(build.as_built !== null && { asBuilt: build.as_built }),
      ...(plan.own !== null && { own: plan.own }),
    },
  );
}

async function splitWork(ctx: Writing, build: BuildTableRow, off: Decimal, unit: string): Promise<number> {
  const { id, number: _, joined_into: __, created_by: ___, created_at: ____, ...columns } = build;
  const units = await loadUnits(ctx);
  const all = quantityFromScaled(build.quantity);
  const kept = { ...build, quantity: quantityToScaled(all.minus(off)) };
  const { decimals } = unitNamed(units, unit);
  const toCome = await toComeOf(ctx, id);
  // Its share of what can still come good, at least one step; something must be left to the first.
  const share = divideDown(toCome.times(off), restOf(build), decimals);
  const goodOff = max(share, step(decimals));
  if (goodOff.gte(toCome))
    throw Refusal.at("quantity", "split-too-few", { number: build.number, rest: toCome.toFixed(), unit });
  const made = await insertBuild(ctx, {
    ...columns,
    quantity: quantityToScaled(off),
    wanted: quantityToScaled(goodOff),
    stage: "queued",
    bench_by: null,
    bench_at: null,
    finished_by: null,
    finished_at: null,
    split_from: id,
    recurring_id: null,
    recurring_day: null,
  });
  const other = await buildById(ctx, made);
  const lines = await storedLines(ctx, id, units);
  const makes = quantityFromScaled(build.makes ?? 0);
  const spare = new Map(
    lines.map((line) => [
      line.line,
      min(
        lineNeed(line, makes, off),
        max(ZERO, line.bench.minus(nextNeed(line, makes, doneOf(kept), restOf(kept)))),
      ),
    ]),
  );
  const moved = await moveBench(ctx, build, other, spare);
  const benchOf = (line: StoredLine) => moved.get(line.line) ?? ZERO;
  await writeSplitLines(ctx, other, lines, makes, benchOf);
  await rewriteNeeds(ctx, kept, lines, makes, benchOf);
  await ctx
    .model(BUILD)
    .update({ quantity: kept.quantity, wanted: build.wanted - other.wanted }, { where: { id } });
  if (moved.size > 0)
    await ctx
      .model(BUILD)
      .update(
        { stage: "on the bench", bench_by: build.bench_by, bench_at: build.bench_at },
        { where: { id: made } },
      );
  return made;
}

async function writeSplitLines(
  ctx: Writing,
  build: BuildTableRow,
  lines: readonly StoredLine[],
  makes: Decimal,
  benchOf: (line: StoredLine) => Decimal,
): Promise<void> {
  const rows = lines
    .filter((line) => !line.added)
    .map((line) => {
      const bench = benchOf(line);
      return storedColumns(line, {
        line: line.line,
        need: lineNeed(line, makes, quantityFromScaled(build.quantity)),
        open: openOf(build, line, bench),
        bench,
      });
    });
  await insertStored(ctx, build.id, rows);
}

/** What the build that was split still needs, reserves and has on the bench. */
async function rewriteNeeds(
  ctx: Writing,
  build: BuildTableRow,
  lines: readonly StoredLine[],
  makes: Decimal,
  gone: (line: StoredLine) => Decimal,
): Promise<void> {
  const rows = lines.map((line) => {
    const bench = line.bench.minus(gone(line));
    return {
      build_id: build.id,
      line: line.line,
      need: quantityToScaled(lineNeed(line, makes, quantityFromScaled(build.quantity))),
      open: quantityToScaled(openOf(build, line, bench)),
      bench: quantityToScaled(bench),
      replaces: 0,
    };
  });
  await ctx.sql.update(BUILD_LINE, ["build_id", "line"], rows);
}

/** Puts another draft of the same product into one; the other is cancelled and says where it went. */
export async function joinBuilds(ctx: Writing, id: number, other: number): Promise<void> {
  const build = await buildById(ctx, id);
  const joined = await buildById(ctx, other);
  refuseStage(build, "join");
  refuseStage(joined, "join");
  const differs = whatDiffers(build, joined);
  if (differs)
    throw Refusal.at("other", "join-differs", { number: build.number, other: joined.number, why: differs });
  const plan = { ...headingOf(build), ...draftOf(build) };
  const dues = [build.due, joined.due].filter((due) => due !== null).sort();
  const wanted = quantityFromScaled(build.wanted).plus(quantityFromScaled(joined.wanted));
  await changePlan(ctx, id, {
    ...plan,
    quantity: wanted,
    due: dues[0] ?? null,
    priority: Math.min(build.priority, joined.priority),
    note: [...new Set([build.note, joined.note].filter(Boolean))].join(" · ").slice(0, 500),
  });
  await takeLinks(ctx, id, other);
  await moveBuildFiles(ctx, other, id);
  await ctx
    .model(BUILD)
    .update(
      { stage: "cancelled", joined_into: id, cancelled_by: ctx.person.id, cancelled_at: ctx.moment },
      { where: { id: other } },
    );
}

/**
 * The open draft of a product that what an order needs is added to: built by the main list with nothing else said, the one due first;
 * null where there is none.
 */
export async function plainDraft(ctx: Reading, product: number): Promise<number | null> {
  const row = await ctx.sql.one<{ id: number }>(
    `SELECT b.id FROM build b JOIN list_head l ON l.id = b.list_id AND l.main = 1
      WHERE b.product_id = $product AND b.stage = 'draft' AND b.own_parts = 0 AND b.as_built IS NULL AND b.options = '[]'
        AND b.subcontractor_id IS NULL AND b.customer_id IS NULL AND b.cost_tag = ''
      ORDER BY b.due IS NULL, b.due, b.id LIMIT 1`,
    { product },
  );
  return row?.id ?? null;
}

/** Makes so many more or fewer with a draft, due on the earlier of its day and another. */
export async function enlargeDraft(
  ctx: Writing,
  id: number,
  { more, due }: { more: Decimal; due: Day | null },
): Promise<void> {
  const build = await buildById(ctx, id);
  const quantity = quantityFromScaled(build.wanted).plus(more);
  await changePlan(ctx, id, {
    ...headingOf(build),
    ...draftOf(build),
    quantity,
    due: [build.due, due].sort(compareDays)[0] ?? null,
  });
}

/** Makes a draft another quantity, or an open build due on another day; null leaves it as it is. */
export async function followPlan(
  ctx: Writing,
  id: number,
  { quantity, due }: { quantity: Decimal | null; due: Day | null },
): Promise<void> {
  const build = await buildById(ctx, id);
  await changePlan(ctx, id, {
    ...headingOf(build),
    ...draftOf(build),
    quantity: quantity ?? quantityFromScaled(build.wanted),
    due: due ?? build.due,
  });
}

/** Units that are still to be worked. */
const restOf = (build: BuildTableRow): Decimal => quantityFromScaled(build.quantity).minus(doneOf(build));

function whatDiffers(a: BuildTableRow, b: BuildTableRow): string | null {
  if (a.id === b.id) return "it is the same build";
  if (a.product_id !== b.product_id) return "it makes another product";
  if (a.own_parts === 1 || b.own_parts === 1) return "it has parts of its own";
  if (a.list_id !== b.list_id || a.as_built !== b.as_built) return "it is built by another list";
  const options = ({ options }: BuildTableRow) => JSON.stringify((JSON.parse(options) as number[]).sort());
  if (options(a) !== options(b)) return "it takes other optional parts";
  if (a.subcontractor_id !== b.subcontractor_id) return "another workshop does it";
  if (a.customer_id !== b.customer_id) return "it is for another customer";
  return a.cost_tag === b.cost_tag ? null : "it has another cost tag";
}
